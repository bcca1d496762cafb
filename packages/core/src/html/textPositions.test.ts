/**
 * What is held here against: parse5's tree builder, a reference implementation of the HTML standard, reads each piece of
 * the source by itself. Samples of references are the standard's own (13.5, "Named character references").
 */
import fc from 'fast-check';
import { parseFragment } from 'parse5';
import { describe, expect, it } from 'vitest';
import { mapTextPositions, findWordsWithin } from './textPositions.ts';

const PIECES = [
  'a',
  'é',
  ' ',
  '\n',
  '\r\n',
  '\r',
  '&',
  '&amp;',
  '&middot;',
  '&nbsp;',
  '&#183;',
  '&#xB7;',
  '&copy',
  '&notit;',
  '&NotEqualTilde;',
  '&#128512;',
  '&unknown;',
  '&amp',
  ';',
  '#',
  '😀',
  '\0',
];

function valueOf(raw: string): string {
  const [node] = parseFragment(raw).childNodes;
  return node && 'value' in node ? node.value : '';
}

describe('positions of a text', () => {
  it('cut the source where what stands before and behind says what the text says before and behind', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...PIECES), { maxLength: 12 }), (pieces) => {
        const raw = pieces.join('');
        const value = valueOf(raw);
        const positions = mapTextPositions(raw, value);
        expect(positions).toHaveLength(value.length + 1);
        positions?.forEach((position, at) => {
          // A letter of several units, or a reference that stands for two, is not cut.
          if (position === positions[at - 1]) return;
          expect(valueOf(raw.slice(0, position)) + valueOf(raw.slice(position))).toBe(value);
          expect(valueOf(raw.slice(0, position))).toBe(value.slice(0, at));
        });
      }),
    );
  });

  it('are not made up for a source that says something else', () => {
    expect(mapTextPositions('Home &middot; ', 'Home - ')).toBeUndefined();
    expect(mapTextPositions('Home', 'Home again')).toBeUndefined();
  });

  it('give words without hard spaces around them, however those are written', () => {
    expect(findWordsWithin('&nbsp;Home &amp; away&nbsp;\n', '\u00a0Home & away\u00a0\n')).toEqual({
      start: 6,
      end: 21,
    });
    expect(findWordsWithin(' Home ', ' Home ')).toEqual({ start: 1, end: 5 });
    expect(findWordsWithin(' \n', ' \n')).toBeUndefined();
  });
});
