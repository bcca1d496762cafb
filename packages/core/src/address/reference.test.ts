import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatReference, parseReference, removeDotSegments, resolveReference } from './reference.ts';

const BASE = 'http://a/b/c/d;p?q';

// RFC 3986 section 5.4.1, all examples.
const NORMAL: readonly (readonly [string, string])[] = [
  ['g:h', 'g:h'],
  ['g', 'http://a/b/c/g'],
  ['./g', 'http://a/b/c/g'],
  ['g/', 'http://a/b/c/g/'],
  ['/g', 'http://a/g'],
  ['//g', 'http://g'],
  ['?y', 'http://a/b/c/d;p?y'],
  ['g?y', 'http://a/b/c/g?y'],
  ['#s', 'http://a/b/c/d;p?q#s'],
  ['g#s', 'http://a/b/c/g#s'],
  ['g?y#s', 'http://a/b/c/g?y#s'],
  [';x', 'http://a/b/c/;x'],
  ['g;x', 'http://a/b/c/g;x'],
  ['g;x?y#s', 'http://a/b/c/g;x?y#s'],
  ['', 'http://a/b/c/d;p?q'],
  ['.', 'http://a/b/c/'],
  ['./', 'http://a/b/c/'],
  ['..', 'http://a/b/'],
  ['../', 'http://a/b/'],
  ['../g', 'http://a/b/g'],
  ['../..', 'http://a/'],
  ['../../', 'http://a/'],
  ['../../g', 'http://a/g'],
];
// RFC 3986 section 5.4.2, all examples; the last one in its strict form.
const ABNORMAL: readonly (readonly [string, string])[] = [
  ['../../../g', 'http://a/g'],
  ['../../../../g', 'http://a/g'],
  ['/./g', 'http://a/g'],
  ['/../g', 'http://a/g'],
  ['g.', 'http://a/b/c/g.'],
  ['.g', 'http://a/b/c/.g'],
  ['g..', 'http://a/b/c/g..'],
  ['..g', 'http://a/b/c/..g'],
  ['./../g', 'http://a/b/g'],
  ['./g/.', 'http://a/b/c/g/'],
  ['g/./h', 'http://a/b/c/g/h'],
  ['g/../h', 'http://a/b/c/h'],
  ['g;x=1/./y', 'http://a/b/c/g;x=1/y'],
  ['g;x=1/../y', 'http://a/b/c/y'],
  ['g?y/./x', 'http://a/b/c/g?y/./x'],
  ['g?y/../x', 'http://a/b/c/g?y/../x'],
  ['g#s/./x', 'http://a/b/c/g#s/./x'],
  ['g#s/../x', 'http://a/b/c/g#s/../x'],
  ['http:g', 'http:g'],
];

describe('resolving references', () => {
  it.each([...NORMAL, ...ABNORMAL])('%s becomes %s', (reference, expected) => {
    expect(formatReference(resolveReference(parseReference(BASE), parseReference(reference)))).toBe(expected);
  });

  it('removes dot segments as in the two worked examples of section 5.2.4', () => {
    expect(removeDotSegments('/a/b/c/./../../g')).toBe('/a/g');
    expect(removeDotSegments('mid/content=5/../6')).toBe('mid/6');
  });

  it.each([
    ['../a', 'a'],
    ['a/../../b', 'b'],
    ['..', ''],
    ['a/..', ''],
    ['/a/..', '/'],
    ['/..', '/'],
    ['a/.', 'a/'],
    ['/../../a', '/a'],
    ['//a/..', '//'],
    ['a/b/..', 'a/'],
  ])('%s without dot segments is %j', (path, expected) => expect(removeDotSegments(path)).toBe(expected));

  // RFC 3986, section 5.2.3: where the base has an authority and no path, the path is merged behind a slash.
  it.each([
    ['http://a', 'g', 'http://a/g'],
    ['http://a?q', 'g', 'http://a/g'],
    ['mailto:a', 'g', 'mailto:g'],
    ['urn:a/b', 'g', 'urn:a/g'],
    ['http://a/b', '//c/../d', 'http://c/d'],
    ['http://a/b', 'x:c/../d', 'x:d'],
  ])('from %s, %s becomes %s', (base, reference, expected) => {
    expect(formatReference(resolveReference(parseReference(base), parseReference(reference)))).toBe(expected);
  });

  it('takes a text with line ends whole', () => {
    expect(parseReference('a\nb?c\nd#e\nf')).toEqual({
      scheme: undefined,
      authority: undefined,
      path: 'a\nb',
      query: 'c\nd',
      fragment: 'e\nf',
    });
    expect(parseReference('x/y:z').scheme).toBe(undefined);
    expect(parseReference('//host/x').authority).toBe('host');
  });

  it('takes any string apart and puts it together again unchanged', () => {
    fc.assert(fc.property(fc.string({ unit: 'grapheme' }), (text) => formatReference(parseReference(text)) === text));
  });

  it('leaves no dot segment in a rooted path', () => {
    const segment = fc.constantFrom('.', '..', 'a', 'b', '', 'c.d');
    fc.assert(
      fc.property(fc.array(segment, { minLength: 1, maxLength: 8 }), (segments) => {
        const path = removeDotSegments(`/${segments.join('/')}`);
        expect(path.startsWith('/')).toBe(true);
        expect(path.split('/')).not.toContain('.');
        expect(path.split('/')).not.toContain('..');
      }),
    );
  });
});
