/**
 * Where a pattern leads: an address with `:name` for what a part of the pattern holds. A held part can fill
 * path and query, never the host: it comes from whoever asks, and would send visitors anywhere.
 */
import { normalisePathEncoding } from '../../address/index.ts';
import { patternFault, type PatternMessage } from '../messages.ts';
import type { Pattern } from './pattern.ts';

export interface Target {
  readonly text: string;
  readonly pieces: readonly (
    string | { readonly name: string; /** Behind the question mark. */ readonly inQuery: boolean }
  )[];
}

export type TargetReading =
  { readonly ok: true; readonly target: Target } | { readonly ok: false; readonly problem: PatternMessage };

/** `/journal/:slug/`, `/archive/?year=:year#:0` or `https://other.example/:0`; `\:` is a colon itself. */
export function readTarget(text: string, pattern: Pick<Pattern, 'names'>): TargetReading {
  const trimmed = text.trim();
  if (/[\u0000-\u001f\u007f\\](?!:)/.test(trimmed.replace(/\\:/g, '')))
    return { ok: false, problem: patternFault('target-letter') };
  const site = /^https?:\/\/[^/?#]*/i.exec(trimmed)?.[0] ?? '';
  if (site === '' && !/^\/(?!\/)/.test(trimmed)) return { ok: false, problem: patternFault('target-beginning') };
  if (site !== '' && !/^https?:\/\/[a-z0-9.-]+(?::\d{1,5})?$/i.test(site))
    return {
      ok: false,
      problem: patternFault('target-host'),
    };
  const pieces: (string | { name: string; inQuery: boolean })[] = [site];
  let inQuery = false;
  let plain = '';
  const rest = trimmed.slice(site.length);
  for (let at = 0; at < rest.length;) {
    const name = /^:([\p{ID_Start}$_][\p{ID_Continue}$]*|\d+)/u.exec(rest.slice(at))?.[1];
    if (name !== undefined) {
      if (!pattern.names.includes(name))
        return {
          ok: false,
          problem:
            pattern.names.length === 0
              ? patternFault('target-no-parts', { name })
              : patternFault('target-no-part', { name, names: pattern.names.map((each) => `:${each}`) }),
        };
      pieces.push(plain, { name, inQuery });
      plain = '';
      at += name.length + 1;
      continue;
    }
    const escaped = rest.startsWith('\\:', at);
    const letter = escaped ? ':' : (rest[at] ?? '');
    if (letter === '?') inQuery = true;
    plain += letter;
    at += escaped ? 2 : 1;
  }
  pieces.push(plain);
  return { ok: true, target: { text: trimmed, pieces: pieces.filter((piece) => piece !== '') } };
}

/** Fills in what the pattern holds. @returns an address of this site, or a whole one where the target names a host */
export function fillTarget({ pieces }: Target, groups: Readonly<Record<string, string>>): string {
  const filled = pieces
    .map((piece) =>
      typeof piece === 'string'
        ? piece
        : piece.inQuery
          ? encodeInQuery(groups[piece.name] ?? '')
          : encodeInPath(groups[piece.name] ?? ''),
    )
    .join('');
  const site = /^https?:\/\/[^/?#]*/i.exec(filled)?.[0] ?? '';
  const rest = filled.slice(site.length);
  // Two slashes at the front would make a host of what follows (RFC 3986, section 4.2).
  return site + (site === '' ? rest.replace(/^\/{2,}/, '/') : rest);
}

/** What was held is normal already; a question mark or hash in it would begin something else. */
function encodeInPath(value: string): string {
  if (/^[A-Za-z0-9_~-]*$/.test(value)) return value;
  return normalisePathEncoding(value)
    .replace(/\.{1,2}(?=\/|$)/g, (dots, at: number, all: string) =>
      at === 0 || all[at - 1] === '/' ? dots.replace(/\./g, '%2E') : dots,
    )
    .replace(/[?#]/g, encodeURIComponent);
}

function encodeInQuery(value: string): string {
  return value.replace(/[&=+#]/g, encodeURIComponent);
}
