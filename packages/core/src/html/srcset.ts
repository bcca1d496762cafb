/** The addresses in a `srcset`. Source: HTML standard, section 4.8.4.2 "srcset attributes". */

export interface SrcsetCandidate {
  readonly url: string;
  /** Position of the address in the attribute's value. */
  readonly start: number;
}

export function parseSrcset(value: string): SrcsetCandidate[] {
  const out: SrcsetCandidate[] = [];
  let at = 0;
  while (at < value.length) {
    const gap = /^[\s,]*/.exec(value.slice(at))?.[0].length ?? 0;
    at += gap;
    const url = /^\S+/.exec(value.slice(at))?.[0];
    if (url === undefined) break;
    const bare = url.replace(/,+$/, '');
    if (bare !== '') out.push({ url: bare, start: at });
    at += url.length;
    // A comma at the address's end ends the candidate; otherwise its descriptors do, up to a comma
    // that stands outside parentheses.
    if (bare === url) at += /^(?:\([^)]*\)?|[^,(])*/.exec(value.slice(at))?.[0].length ?? 0;
  }
  return out;
}
