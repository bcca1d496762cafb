/** Text for XML, and XML that is read. Source: XML 1.0, fifth edition, sections 2.2, 2.4 and 2.8. */
import fc from 'fast-check';
import { XMLParser } from 'fast-xml-parser';
import { describe, expect, it } from 'vitest';
import { escapeXml } from './index.ts';
import { parseXml } from './parsed.ts';

const parser = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '',
  trimValues: false,
  parseTagValue: false,
});

describe('text for XML', () => {
  it.each([
    ['a & b < c > d "e"', 'a &amp; b &lt; c &gt; d &quot;e&quot;'],
    ['a\0b\x08c\x0bd\x0ce\x1ff', 'abcdef'],
    ['a\tb\nc\rd', 'a\tb\nc\rd'],
    ['a\ud800b', 'ab'],
    ['a\udc00b', 'ab'],
    ['a\u{1f319}b', 'a\u{1f319}b'],
    ['a\ufffeb\uffffc', 'abc'],
    ['&amp;', '&amp;amp;'],
  ])('%j is written %j', (text, expected) => expect(escapeXml(text)).toBe(expected));

  it('reads back as it was, without what XML cannot hold (property)', () => {
    const text = fc.string({ unit: 'grapheme', minLength: 1 }).filter((of) => !/[\0-\x1f\ufffe\uffff]/.test(of));
    fc.assert(
      fc.property(text, (of) => {
        expect(parseXml(parser, `<a b="${escapeXml(of)}"/>`)).toEqual({ a: { b: of } });
      }),
    );
  });
});

describe('XML', () => {
  it.each<[string, unknown]>([
    ['<a>b</a>', { a: 'b' }],
    ['<a>', undefined],
    ['<a></b>', undefined],
    ['<!DOCTYPE a><a>b</a>', undefined],
    ['<a>b</a><!entity x "y">', undefined],
    [`${'<a>'.repeat(10_000)}${'</a>'.repeat(10_000)}`, undefined],
  ])('%.40s', (text, expected) => expect(parseXml(parser, text)).toEqual(expected));
});
