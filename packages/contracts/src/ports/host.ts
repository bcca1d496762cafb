/**
 * A place a site is published to. Contents travel once, by hash; a release is described by what
 * differs from one the host already has; the switch is one step that either happens or does not.
 */
import { z } from 'zod';
import type { ManifestDelta } from '@fastigium/core/release';

export const hash = z.string().regex(/^[0-9a-f]{64}$/);
const header = z.record(z.string().regex(/^[a-z0-9-]+$/), z.string().regex(/^[\x20-\x7e]*$/));
export const manifestEntry = z.object({
  path: z.string().min(1).max(4096).refine(isSafePath, 'a path that stays inside the site'),
  hash,
  sizeBytes: z.number().int().min(0),
  headers: header,
});

/** A release on the wire. */
export const releaseDescription = z.object({
  /** The release this one differs from; null for one that is told whole. */
  base: z.uuid().nullable(),
  put: z.array(manifestEntry),
  remove: z.array(z.string()),
  /** SHA-256 of the serialised rules, sent as a content; null for no rules. */
  rules: hash.nullable(),
  /** The manifest's root, which the host reckons anew and compares. */
  root: hash,
});

export interface StagedRelease extends ManifestDelta {
  readonly id: string;
  readonly base: string | null;
  readonly rules: string | null;
  readonly root: string;
}

export const hostError = z.object({ error: z.string() });
export const missingRequest = z.object({ hashes: z.array(hash).max(200_000) });
export const missingAnswer = z.object({ missing: z.array(hash) });
export const currentAnswer = z.object({ release: z.uuid().nullable() });
export const currentRequest = z.object({ release: z.uuid(), expected: z.uuid().nullable() });

export interface HostPort {
  /** Which of these contents the host does not have yet, in the order asked. */
  missing(site: string, hashes: readonly string[], signal?: AbortSignal): Promise<readonly string[]>;
  /** Sends one content; the host refuses bytes that do not have the hash. Returns bytes on the wire. */
  put(site: string, contentHash: string, bytes: Uint8Array, signal?: AbortSignal): Promise<number>;
  /** Makes a release known and checked at the host, not yet visible. Safe to repeat. Returns bytes on the wire. */
  stage(site: string, release: StagedRelease, signal?: AbortSignal): Promise<number>;
  /**
   * Makes a staged release the one visitors get, all at once, if `expected` is the one they get now
   * (null: none). Safe to repeat: a release that is current already stays so.
   */
  switchTo(site: string, release: string, expected: string | null): Promise<void>;
  current(site: string): Promise<string | null>;
  /** Where visitors find the site at this host. */
  urlOf(site: string): string;
}

/** Refuses paths that climb, start at a root, or hold what no file name may. */
export function isSafePath(path: string): boolean {
  if (path.startsWith('/') || /[\0-\x1f\\]/.test(path)) return false;
  return path.split('/').every((segment) => segment !== '' && segment !== '.' && segment !== '..');
}
