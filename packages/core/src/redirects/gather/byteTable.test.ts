/** A table of texts by their bytes finds what a Map of the platform finds. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ByteTable } from './byteTable.ts';

const encode = (text: string) => new TextEncoder().encode(text);
const decode = (bytes: Uint8Array) => String.fromCharCode(...bytes);

/** Numbers of texts as they come, each found in the midst of others. */
function number(table: ByteTable, texts: readonly string[]): number[] {
  return texts.map((text) => {
    const around = encode(`<${text}>`);
    const found = table.find(around, 1, around.length - 1);
    return found < 0 ? table.add(encode(text)) : found;
  });
}

function numberByMap(texts: readonly string[]): number[] {
  const numbers = new Map<string, number>();
  return texts.map((text) => {
    if (!numbers.has(text)) numbers.set(text, numbers.size);
    return numbers.get(text) ?? -1;
  });
}

describe('texts by their bytes', () => {
  it('have one number each, in the order they came (property)', () => {
    const text = fc.string({ unit: fc.constantFrom('a', 'b', '/'), maxLength: 5 });
    fc.assert(
      fc.property(fc.array(text, { maxLength: 60 }), fc.constantFrom(1, 2, Infinity), (texts, letters) => {
        const table = new ByteTable(letters);
        expect(number(table, texts)).toEqual(numberByMap(texts));
        const different = [...new Set(texts)];
        expect(table.size).toBe(different.length);
        expect(different.map((_, at) => decode(table.at(at)))).toEqual(different);
      }),
    );
  });

  it('are found however many there are, and however long', () => {
    const texts = Array.from({ length: 20_000 }, (_, n) => `/${'x'.repeat(n % 40)}/${n}`);
    const table = new ByteTable();
    expect(number(table, texts)).toEqual(texts.map((_, n) => n));
    expect(number(table, texts)).toEqual(texts.map((_, n) => n));
    expect(decode(table.at(12_345))).toBe(texts[12_345]);
  });

  it('are found also where they were chosen to fall into one place', () => {
    // All that is reckoned with is the last letter and how long they are.
    const texts = Array.from({ length: 5000 }, (_, n) => `${String(n).padStart(6, '0')}-same`);
    const table = new ByteTable(1);
    expect(number(table, texts)).toEqual(texts.map((_, n) => n));
    expect(number(table, [...texts].reverse())).toEqual(texts.map((_, n) => texts.length - 1 - n));
    const missing = encode('999999-same');
    expect(table.find(missing, 0, missing.length)).toBe(-1);
  });
});
