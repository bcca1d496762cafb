/** Subtags one by one. Sources: RFC 5646, sections 2.1.1 (letter case), 2.2.1 to 2.2.8 (subtags, private use), 2.2.9. */
import { describe, expect, it } from 'vitest';
import { checkLanguage } from './index.ts';

describe('a tag as it should be written', () => {
  it.each([
    [' en ', 'en'],
    ['EN-gb', 'en-GB'],
    ['zh-YUE-hK', 'zh-yue-HK'],
    ['SR-latn-rs', 'sr-Latn-RS'],
    ['SL-ROZAJ-Biske', 'sl-rozaj-biske'],
    ['EN-us-U-Islamcal', 'en-US-u-islamcal'],
    ['EN-A-aaa-B-CCC', 'en-a-aaa-b-ccc'],
    ['DE-ch-X-PhoneBk', 'de-CH-x-phonebk'],
    ['X-What-Ever', 'x-what-ever'],
    ['es-419', 'es-419'],
    ['I-Enochian', 'I-Enochian'],
  ])('%s is %s', (text, tag) => expect(checkLanguage(text)).toEqual({ ok: true, tag }));
});

describe('what is registered', () => {
  it.each([
    ['xx', 'language', 'xx'],
    ['en-xxx', 'extlang', 'xxx'],
    ['en-Xxxx', 'script', 'Xxxx'],
    ['en-AB', 'region', 'AB'],
    ['en-wrong', 'variant', 'wrong'],
  ])('%s: no %s', (tag, kind, subtag) =>
    expect(checkLanguage(tag)).toMatchObject({
      ok: false,
      why: { code: 'language-tag.not-registered', parameters: { kind, subtag } },
    }),
  );

  // Private use: qaa to qtz, Qaaa to Qabx, AA, QM to QZ, XA to XZ, ZZ.
  it.each(['qaa', 'qtz', 'QTZ', 'en-Qaaa', 'en-Qabx', 'en-QM', 'en-QZ', 'en-XA', 'en-XZ'])(
    '%s is for private use',
    (tag) => expect(checkLanguage(tag).ok).toBe(true),
  );
  it.each(['qzz', 'en-Qaca', 'en-Qaby', 'en-Qaaaa', 'en-QL', 'en-YX', 'en-QM1'])('%s is not', (tag) =>
    expect(checkLanguage(tag).ok).toBe(false),
  );

  it.each([
    ['', 'empty'],
    ['  ', 'empty'],
    ['en_GB', 'not-written-as-one'],
    ['-', 'not-written-as-one'],
  ])('%j is %s', (tag, why) =>
    expect(checkLanguage(tag)).toMatchObject({ ok: false, why: { code: `language-tag.${why}` } }),
  );
});
