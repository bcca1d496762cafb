/** Language tags: RFC 5646 (BCP 47), against the IANA Language Subtag Registry. */
import { parse } from 'bcp-47';
import registry from 'language-subtag-registry/data/json/registry.json' with { type: 'json' };

interface Entry {
  readonly Type: string;
  readonly Subtag?: string;
  readonly Tag?: string;
  readonly Description: readonly string[];
  readonly 'Suppress-Script'?: string;
}

const ENTRIES = registry as unknown as readonly Entry[];
const known = new Map<string, Entry>();
for (const entry of ENTRIES) known.set(`${entry.Type} ${(entry.Subtag ?? entry.Tag ?? '').toLowerCase()}`, entry);

export type LanguageCheck = { readonly ok: true; readonly tag: string; readonly name: string } | { readonly ok: false; readonly why: string };

/**
 * Whether a text is a language tag that means something (RFC 5646, section 2.2.9, "valid"), in its
 * recommended letter case (section 2.1.1), and what it is called in English.
 */
export function checkLanguage(text: string): LanguageCheck {
  const written = text.trim();
  if (written === '') return { ok: false, why: 'it is empty' };
  const grandfathered = known.get(`grandfathered ${written.toLowerCase()}`);
  if (grandfathered) return { ok: true, tag: written, name: grandfathered.Description[0] ?? written };
  const { language, extendedLanguageSubtags, script, region, variants, extensions, privateuse } = parse(written);
  if (!language && privateuse.length === 0) return { ok: false, why: 'it is not written as one (letters, two or three, then parts after hyphens)' };
  const parts: [string, string | null | undefined][] = [['language', language], ...extendedLanguageSubtags.map((each) => ['extlang', each] as [string, string]), ['script', script], ['region', region], ...variants.map((each) => ['variant', each] as [string, string])];
  for (const [type, subtag] of parts) {
    if (subtag && !isKnown(type, subtag)) return { ok: false, why: `“${subtag}” is no ${TYPES[type] ?? type} in the register of languages` };
  }
  const name = language ? (known.get(`language ${language.toLowerCase()}`)?.Description[0] ?? written) : 'private use';
  const place = region ? known.get(`region ${region.toLowerCase()}`)?.Description[0] : undefined;
  return {
    ok: true, name: place === undefined ? name : `${name} (${place})`,
    tag: [
      language?.toLowerCase(), ...extendedLanguageSubtags.map((each) => each.toLowerCase()), script && capitalised(script), region?.toUpperCase(), ...variants.map((each) => each.toLowerCase()),
      ...extensions.map(({ singleton, extensions: parts }) => [singleton, ...parts].join('-').toLowerCase()), ...(privateuse.length > 0 ? [`x-${privateuse.join('-').toLowerCase()}`] : []),
    ].filter(Boolean).join('-'),
  };
}

const TYPES: Readonly<Record<string, string>> = { language: 'language', extlang: 'language', script: 'script', region: 'region', variant: 'variant' };

function isKnown(type: string, subtag: string): boolean {
  const lower = subtag.toLowerCase();
  if (known.has(`${type} ${lower}`)) return true;
  // Private use subtags stand in the register as ranges (RFC 5646, section 2.2.1, 2.2.3, 2.2.4).
  return (type === 'language' && /^q[a-t][a-z]$/.test(lower)) || (type === 'script' && /^qa[a-b][a-x]$/.test(lower)) || (type === 'region' && /^(q[m-z]|x[a-z])$/.test(lower));
}

function capitalised(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1).toLowerCase();
}
