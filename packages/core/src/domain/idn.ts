/**
 * Names as people type them, in both forms: Unicode to read, ASCII to register and to ask for.
 * Sources: UTS 46 (ToASCII and ToUnicode, non-transitional, with STD3 rules), RFC 3492 (Punycode),
 * RFC 2606 and 6761 (reserved names), RFC 6762 (local), RFC 7686 (onion), UTS 39 section 5.1 (scripts).
 */
import { toASCII, toUnicode } from 'tr46';
import { nameFault, type NameFault } from '../dns/messages.ts';
import { checkHostName, type DomainName } from '../dns/name.ts';

export type TypedName =
  | { readonly ok: true; readonly name: DomainName; readonly unicode: string }
  | { readonly ok: false; readonly reason: NameFault };

const RULES = {
  checkBidi: true,
  checkHyphens: true,
  checkJoiners: true,
  useSTD3ASCIIRules: true,
  transitionalProcessing: false,
  verifyDNSLength: false,
} as const;

/** Names that never lead anywhere on the internet. The documentation names stay usable: the stand-ins serve them. */
const NOWHERE = new Set(['localhost', 'local', 'invalid', 'onion', 'internal', 'alt']);

/** Reads what was typed or pasted, `https://www.example.com/page` too. */
export function readTypedName(text: string): TypedName {
  const bare = text
    .trim()
    .replace(/^[a-z][a-z0-9+.-]*:\/\//i, '')
    .replace(/[/?#].*$/s, '')
    .replace(/:\d+$/, '')
    .replace(/\.$/, '');
  if (bare === '') return { ok: false, reason: nameFault('empty') };
  if (/\s/.test(bare)) return { ok: false, reason: nameFault('spaces') };
  if (/\p{Extended_Pictographic}/u.test(bare)) return { ok: false, reason: nameFault('pictures') };
  const mixed = bare
    .split('.')
    .map((label) => listScripts(toUnicode(label, RULES).domain))
    .find((scripts) => isMixed(scripts));
  if (mixed)
    return {
      ok: false,
      reason: nameFault('scripts-mixed', { scripts: mixed }),
    };
  const ascii = toASCII(bare, RULES);
  if (ascii === null) {
    const checked = checkHostName(bare);
    return {
      ok: false,
      reason: checked.ok ? nameFault('not-allowed') : checked.fault,
    };
  }
  const checked = checkHostName(ascii);
  if (!checked.ok) return { ok: false, reason: checked.fault };
  const last = checked.name.split('.').at(-1) ?? '';
  if (NOWHERE.has(last)) return { ok: false, reason: nameFault('nowhere', { ending: last }) };
  return { ok: true, name: checked.name, unicode: formatReadableName(checked.name) };
}

/** The form to show; a name that does not read back is shown as it is. */
export function formatReadableName(name: DomainName): string {
  const { domain, error } = toUnicode(name, RULES);
  return error ? name : domain;
}

const SCRIPTS = [
  'Latin',
  'Cyrillic',
  'Greek',
  'Armenian',
  'Hebrew',
  'Arabic',
  'Devanagari',
  'Thai',
  'Georgian',
  'Hangul',
  'Han',
  'Hiragana',
  'Katakana',
] as const;
const PATTERNS = SCRIPTS.map((script) => [script, new RegExp(`\\p{Script=${script}}`, 'u')] as const);

function listScripts(label: string): string[] {
  return PATTERNS.filter(([, pattern]) => pattern.test(label)).map(([script]) => script);
}

/** UTS 39 section 5.2, highly restrictive: Latin with Japanese or Korean writing is ordinary, everything else mixed is not. */
function isMixed(scripts: readonly string[]): boolean {
  if (scripts.length < 2) return false;
  const others = scripts.filter((script) => script !== 'Latin');
  const japanese = others.every((script) => script === 'Han' || script === 'Hiragana' || script === 'Katakana');
  const korean = others.every((script) => script === 'Han' || script === 'Hangul');
  return !(japanese || korean);
}
