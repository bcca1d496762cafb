/** Language tags: the examples of RFC 5646, appendix A, and every subtag of the IANA registry. */
import registry from 'language-subtag-registry/data/json/registry.json' with { type: 'json' };
import { describe, expect, it } from 'vitest';
import { registerOf } from '../../generate/registerOf.ts';
import { checkLanguage } from './index.ts';
import register from './register.json' with { type: 'json' };

describe('RFC 5646, appendix A', () => {
  it.each([
    'de',
    'fr',
    'ja',
    'i-enochian',
    'zh-Hant',
    'zh-Hans',
    'sr-Cyrl',
    'zh-cmn-Hans-CN',
    'cmn-Hans-CN',
    'zh-yue-HK',
    'yue-HK',
    'zh-Hans-CN',
    'sr-Latn-RS',
    'sl-rozaj',
    'sl-rozaj-biske',
    'sl-nedis',
    'de-CH-1901',
    'sl-IT-nedis',
    'hy-Latn-IT-arevela',
    'de-DE',
    'en-US',
    'es-419',
    'de-CH-x-phonebk',
    'az-Arab-x-AZE-derbend',
    'x-whatever',
    'qaa-Qaaa-QM-x-southern',
    'sr-Latn-QM',
    'sr-Qaaa-RS',
    'en-US-u-islamcal',
  ])('%s is one', (tag) => expect(checkLanguage(tag).ok).toBe(true));
  // "Some Invalid Tags".
  it.each(['de-419-DE', 'a-DE'])('%s is none', (tag) => expect(checkLanguage(tag).ok).toBe(false));
});

it.each(['', 'english', 'en_GB', 'xx', 'en-ZZZ', 'cymraeg', '1', 'e', 'en-', '-en'])('“%s” is none', (tag) =>
  expect(checkLanguage(tag)).toMatchObject({ ok: false }),
);
it('takes its letter case from section 2.1.1', () =>
  expect(checkLanguage('ZH-hANT-tw')).toEqual({ ok: true, tag: 'zh-Hant-TW' }));
it('knows the registry as the package has it', () => {
  expect(register).toEqual(registerOf(registry));
  const languages = registry.flatMap(({ Type, Subtag }: { Type: string; Subtag?: string }) =>
    Type === 'language' && Subtag !== undefined && !Subtag.includes('..') ? [Subtag] : [],
  );
  expect(languages.length).toBeGreaterThan(8000);
  expect(languages.filter((tag) => !checkLanguage(tag).ok)).toEqual([]);
});
