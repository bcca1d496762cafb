/** Language tags: RFC 5646 (BCP 47), against the IANA Language Subtag Registry. */
import { parse } from 'bcp-47';
import { languageTag, type LanguageTagMessage } from './messages.ts';
import register from './register.json' with { type: 'json' };

/** Subtags by kind, cut out of the strings they are kept in. */
const KNOWN = new Map(
  Object.entries(register as Readonly<Record<string, Readonly<Record<string, string>>>>).map(([kind, byLength]) => [
    kind,
    new Set(
      Object.entries(byLength).flatMap(([length, all]) => {
        const subtags: string[] = [];
        for (let at = 0; at < all.length; at += Number(length)) subtags.push(all.slice(at, at + Number(length)));
        return subtags;
      }),
    ),
  ]),
);
const isIn = (kind: string, subtag: string): boolean => KNOWN.get(kind)?.has(subtag.toLowerCase()) ?? false;

type SubtagKind = 'language' | 'extlang' | 'script' | 'region' | 'variant';

export type LanguageCheck =
  { readonly ok: true; readonly tag: string } | { readonly ok: false; readonly why: LanguageTagMessage };

/**
 * Whether a text is a language tag that means something (RFC 5646, section 2.2.9, "valid"), in its
 * recommended letter case (section 2.1.1).
 */
export function checkLanguage(text: string): LanguageCheck {
  const written = text.trim();
  if (written === '') return { ok: false, why: languageTag('empty') };
  if (isIn('grandfathered', written)) return { ok: true, tag: written };
  const { language, extendedLanguageSubtags, script, region, variants, extensions, privateuse } = parse(written);
  if (!language && privateuse.length === 0) return { ok: false, why: languageTag('not-written-as-one') };
  const parts: [SubtagKind, string | null | undefined][] = [
    ['language', language],
    ...extendedLanguageSubtags.map((each) => ['extlang', each] as [SubtagKind, string]),
    ['script', script],
    ['region', region],
    ...variants.map((each) => ['variant', each] as [SubtagKind, string]),
  ];
  for (const [type, subtag] of parts) {
    if (subtag && !isKnown(type, subtag))
      return { ok: false, why: languageTag('not-registered', { subtag, kind: type }) };
  }
  return {
    ok: true,
    tag: [
      language?.toLowerCase(),
      ...extendedLanguageSubtags.map((each) => each.toLowerCase()),
      script && capitalise(script),
      region?.toUpperCase(),
      ...variants.map((each) => each.toLowerCase()),
      ...extensions.map(({ singleton, extensions: parts }) => [singleton, ...parts].join('-').toLowerCase()),
      ...(privateuse.length > 0 ? [`x-${privateuse.join('-').toLowerCase()}`] : []),
    ]
      .filter(Boolean)
      .join('-'),
  };
}

function isKnown(type: string, subtag: string): boolean {
  const lower = subtag.toLowerCase();
  if (isIn(type, lower)) return true;
  // Private use subtags stand in the register as ranges (RFC 5646, section 2.2.1, 2.2.3, 2.2.4).
  return (
    (type === 'language' && /^q[a-t][a-z]$/.test(lower)) ||
    (type === 'script' && /^qa[a-b][a-x]$/.test(lower)) ||
    (type === 'region' && /^(q[m-z]|x[a-z])$/.test(lower))
  );
}

function capitalise(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1).toLowerCase();
}
