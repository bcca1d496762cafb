/**
 * Percent-encoding. Source: RFC 3986 sections 2.1 to 2.4 and 6.2.2; RFC 3987 section 3.1 for
 * letters outside ASCII (encoded as UTF-8).
 */

import { decodeStrictly } from '../text/index.ts';

const encoder = new TextEncoder();

const UNRESERVED = /[A-Za-z0-9\-._~]/;
// pchar without its percent form (RFC 3986 section 3.3), and the slash between segments.
/** Of these alone most are, and stay as they are. */
const PLAIN = /^[A-Za-z0-9\-._~!$&'()*+,;=:@/?]*$/;
const PATH_CHARACTER = /[A-Za-z0-9\-._~!$&'()*+,;=:@/]/;
const QUERY_CHARACTER = /[A-Za-z0-9\-._~!$&'()*+,;=:@/?]/;

function encodeBytes(character: string): string {
  let out = '';
  for (const byte of encoder.encode(character)) {
    out += `%${byte.toString(16).toUpperCase().padStart(2, '0')}`;
  }
  return out;
}

function normalise(text: string, allowed: RegExp): string {
  let out = '';
  for (let i = 0; i < text.length;) {
    const hex = text[i] === '%' ? /^[0-9A-Fa-f]{2}/.exec(text.slice(i + 1, i + 3))?.[0] : undefined;
    if (hex !== undefined) {
      const character = String.fromCharCode(Number.parseInt(hex, 16));
      // Section 6.2.2.2: an encoded unreserved character is the character itself.
      out += UNRESERVED.test(character) ? character : `%${hex.toUpperCase()}`;
      i += 3;
      continue;
    }
    const character = String.fromCodePoint(text.codePointAt(i) ?? 0);
    out += allowed.test(character) ? character : encodeBytes(character);
    i += character.length;
  }
  return out;
}

/** A path in the one spelling of section 6.2.2: `/caf%c3%a9/%7Ex y` becomes `/caf%C3%A9/~x%20y`. */
export function normalisePathEncoding(path: string): string {
  return PLAIN.test(path) && !path.includes('?') ? path : normalise(path, PATH_CHARACTER);
}

/** The same for a query; `+` stays `+`, since only forms read it as a space. */
export function normaliseQueryEncoding(query: string): string {
  return PLAIN.test(query) ? query : normalise(query, QUERY_CHARACTER);
}

/** Encodes a file's name or path for use in an address. A literal `%` becomes `%25`. */
export function encodePath(path: string): string {
  let out = '';
  for (const character of path) out += PATH_CHARACTER.test(character) ? character : encodeBytes(character);
  return out;
}

/**
 * The file path an address path names, or undefined where it cannot name one: not UTF-8, or an
 * encoded slash or NUL, which no file name can hold (so `%2F` never reaches another folder).
 */
export function decodePath(path: string): string | undefined {
  if (!path.includes('%')) return path.includes('\0') ? undefined : path;
  const bytes: number[] = [];
  for (let i = 0; i < path.length;) {
    const hex = path[i] === '%' ? /^[0-9A-Fa-f]{2}/.exec(path.slice(i + 1, i + 3))?.[0] : undefined;
    if (hex !== undefined) {
      const byte = Number.parseInt(hex, 16);
      if (byte === 0x2f || byte === 0x00) return undefined;
      bytes.push(byte);
      i += 3;
    } else {
      const character = String.fromCodePoint(path.codePointAt(i) ?? 0);
      bytes.push(...encoder.encode(character));
      i += character.length;
    }
  }
  return decodeStrictly(Uint8Array.from(bytes), 'utf-8');
}

/**
 * A fragment as it stands behind an address, its sign with it: what is beyond ASCII is encoded, what is encoded stays
 * (URL standard, "fragment percent-encode set"); ends of lines and tabs are no part of it.
 */
export function encodeFragment(fragment: string): string {
  return new URL(`#${fragment}`, 'http://here.invalid').hash;
}
