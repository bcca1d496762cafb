/**
 * Passwords of visitors: HTTP's Basic scheme (RFC 7617), checked against bcrypt hashes. Who was wrong too often waits,
 * so that passwords cannot be tried out (RFC 6585 section 4).
 */
import bcrypt from 'bcryptjs';
import { createHash } from 'node:crypto';
import type { Entry } from '@fastigium/core/access';

/** Wrong ones for one site from one address, until it has to wait; common practice, no source. */
export const MOST_WRONG = 10;
export const WAIT_MS = 5 * 60_000;
/** Of addresses and passwords remembered; of more the oldest are forgotten. */
const MOST_REMEMBERED = 10_000;

export type Checked =
  { readonly kind: 'in' } | { readonly kind: 'asked' } | { readonly kind: 'waits'; readonly seconds: number };

export class Passwords {
  readonly #nowMs: () => number;
  readonly #right = new Set<string>();
  readonly #wrong = new Map<string, { count: number; sinceMs: number }>();

  constructor(nowMs: () => number) {
    this.#nowMs = nowMs;
  }

  async check(
    { user, hash }: Extract<Entry, { kind: 'password' }>,
    authorization: string | undefined,
    visitor: { readonly site: string; readonly from: string },
  ): Promise<Checked> {
    const key = `${visitor.site} ${visitor.from}`;
    const waits = this.#waits(key);
    if (waits !== undefined) return { kind: 'waits', seconds: waits };
    const given = readBasic(authorization);
    if (!given) return { kind: 'asked' };
    // A hash is slow on purpose; a page with its pictures asks a hundred times.
    const known = createHash('sha256')
      .update(JSON.stringify([hash, given]))
      .digest('base64');
    if (this.#right.has(known)) return { kind: 'in' };
    if (given.user === user && (await bcrypt.compare(given.password, hash))) {
      remember(this.#right, known);
      return { kind: 'in' };
    }
    this.#count(key);
    return { kind: 'asked' };
  }

  #waits(key: string): number | undefined {
    const wrong = this.#wrong.get(key);
    if (!wrong) return undefined;
    const left = wrong.sinceMs + WAIT_MS - this.#nowMs();
    if (left <= 0 || left > WAIT_MS) this.#wrong.delete(key);
    return wrong.count < MOST_WRONG || left <= 0 || left > WAIT_MS ? undefined : Math.ceil(left / 1000);
  }

  /** Time counts from the last wrong one. */
  #count(key: string): void {
    const count = (this.#wrong.get(key)?.count ?? 0) + 1;
    this.#wrong.delete(key);
    this.#wrong.set(key, { count, sinceMs: this.#nowMs() });
    const [oldest] = this.#wrong.keys();
    if (this.#wrong.size > MOST_REMEMBERED && oldest !== undefined) this.#wrong.delete(oldest);
  }
}

function remember(set: Set<string>, key: string): void {
  set.add(key);
  const [oldest] = set;
  if (set.size > MOST_REMEMBERED && oldest !== undefined) set.delete(oldest);
}

/** RFC 7617 section 2: the user's name ends at the first colon; both are UTF-8 as the challenge asks. */
function readBasic(
  authorization: string | undefined,
): { readonly user: string; readonly password: string } | undefined {
  const encoded = /^basic +([A-Za-z0-9+/=]+) *$/i.exec(authorization ?? '')?.[1];
  if (encoded === undefined) return undefined;
  const text = Buffer.from(encoded, 'base64').toString('utf8');
  const colon = text.indexOf(':');
  return colon < 0 ? undefined : { user: text.slice(0, colon), password: text.slice(colon + 1) };
}
