/**
 * A place a site is published to. Contents travel once, by hash; a release is described by what
 * differs from one the host already has; the switch is one step that either happens or does not.
 */
import { z } from 'zod';
import type { Recipe } from '@fastigium/core/pieces';
import type { ManifestDelta, ManifestEntry } from '@fastigium/core/release';

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

export interface HashedBytes {
  readonly hash: string;
  readonly bytes: Uint8Array;
}

export interface HostPort {
  /**
   * Which of these contents the host does not have yet, or not whole, in the order asked.
   * @param sizes bytes of each content by its hash
   */
  missing(site: string, sizes: ReadonlyMap<string, number>, signal?: AbortSignal): Promise<readonly string[]>;
  /** Sends one content; the host refuses bytes that do not have the hash. Returns bytes on the wire. */
  put(site: string, contentHash: string, bytes: Uint8Array, signal?: AbortSignal): Promise<number>;
  /**
   * Sends one content as what makes it of another that the host has; undefined where a host cannot put it together.
   * Refused like `put` where the outcome does not have the hash. Returns bytes on the wire.
   */
  readonly putFrom:
    | ((site: string, contentHash: string, from: string, recipe: Recipe, signal?: AbortSignal) => Promise<number>)
    | undefined;
  /**
   * Sends many at once, checked like one by one; undefined where a host takes them only singly. With the entries of the
   * release to come that have them, so that a host may begin with it. Returns bytes on the wire.
   */
  readonly putMany:
    | ((
        site: string,
        contents: readonly HashedBytes[],
        pack: { readonly release: string; readonly entries: readonly ManifestEntry[] },
        signal?: AbortSignal,
      ) => Promise<number>)
    | undefined;
  /**
   * Makes a release known and checked at the host, not yet visible. Safe to repeat. Returns bytes on the wire. Throws a
   * DomainError `host-lost-base` where the base is not there or not whole any more: tell it without one.
   */
  stage(site: string, release: StagedRelease, signal?: AbortSignal): Promise<number>;
  /**
   * Makes a staged release the one visitors get, all at once, if `expected` is the one they get now
   * (null: none). Safe to repeat: a release that is current already stays so.
   */
  switchTo(site: string, release: string, expected: string | null): Promise<void>;
  current(site: string): Promise<string | null>;
  /** The host may delete what only this release needed; one it does not have is let go already. Refused for the current one. */
  letGo(site: string, release: string): Promise<void>;
  /** Where visitors find a site by its temporary name; undefined where nobody has said. */
  urlOf(label: string): string | undefined;
  /** What a host does beyond keeping files; undefined where it does not. */
  readonly naming: HostNaming | undefined;
  /** Whether it asks visitors for passwords and keeps them out by itself, as a release says. */
  readonly asksPasswords: boolean;
  /** The access log as it grows; undefined where the host gives none. */
  readonly accessLog: HostAccessLog | undefined;
  /** Makes the answer to an http-01 challenge (RFC 8555 section 8.3) visible, or takes it away (null). */
  challenge(site: string, token: string, keyAuthorization: string | null): Promise<void>;
}

/** A recipe on the wire: its parts as JSON, preceded by their length in four bytes, big-endian, and what is sent behind them. */
export const RECIPE_TYPE = 'application/vnd.fastigium.recipe';
export const recipeParts = z
  .array(
    z.union([
      z.object({ copy: z.number().int().min(0), length: z.number().int().min(0) }),
      z.object({ sent: z.number().int().min(0) }),
    ]),
  )
  .max(100_000);

export interface LogPiece {
  readonly bytes: Uint8Array;
  /** Of the whole log as it is now. */
  readonly sizeBytes: number;
  /** Another text whenever the log was begun anew; empty for an empty log. */
  readonly begun: string;
}

/** An access log in the common or combined format. */
export interface HostAccessLog {
  /**
   * From a place in the log that was begun so (empty: never read). Where another has been begun since, a host that still
   * has the earlier one gives what that gained after the place, as long as there are whole lines left in it.
   */
  read(
    site: string,
    place: { readonly begun: string; readonly fromByte: number },
    mostBytes: number,
    signal?: AbortSignal,
  ): Promise<LogPiece>;
}

/** Headers of a piece of the log on the wire. */
export const LOG_SIZE_HEADER = 'log-size';
export const LOG_BEGUN_HEADER = 'log-begun';

const domainName = z
  .string()
  .min(1)
  .max(253)
  .regex(/^[a-z0-9.-]+$/);
/** One DNS label, as temporary addresses are. */
export const hostLabel = z
  .string()
  .regex(
    /^[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?$/,
    'letters, digits and hyphens, at most 63, a hyphen neither first nor last',
  );

/** Which names of one's own lead to a site. */
export const siteNames = z.object({
  /** The address visitors are meant to see; null: the temporary one. */
  main: domainName.nullable(),
  /** Names that redirect to it, path and query kept. */
  others: z.array(z.object({ name: domainName, status: z.union([z.literal(301), z.literal(308)]) })).max(200),
  /** http goes to https; only once a certificate is there. */
  forceHttps: z.boolean(),
  /** Strict-Transport-Security (RFC 6797) for this long; null: not sent. */
  hstsSeconds: z.number().int().min(0).nullable(),
});
export type SiteNames = z.infer<typeof siteNames>;

export const certificateFiles = z.object({
  names: z.array(domainName).min(1),
  chain: z.string().min(1),
  key: z.string().min(1),
});
export type CertificateFiles = z.infer<typeof certificateFiles>;

export const temporaryName = z.object({ label: hostLabel, keepOldUntilMs: z.number().nullable() });

export const temporaryRefusal = z.object({ error: z.string(), free: z.array(z.string()) });

export const hostPlan = z.object({
  id: z.string(),
  name: z.string(),
  currency: z.string(),
  monthlyCents: z.number().int(),
  setUpCents: z.number().int(),
  setUpWaivedFromMonths: z.number().int(),
  sites: z.number().int(),
  storageBytes: z.number().int(),
  files: z.number().int(),
  ownDomain: z.boolean(),
  certificate: z.boolean(),
  password: z.boolean(),
  backupDays: z.number().int(),
  uptimePercent: z.number(),
});
export const hostRegion = z.object({ id: z.string(), name: z.string(), latitude: z.number(), longitude: z.number() });
export const hostOffer = z.object({
  name: z.string(),
  simulated: z.boolean(),
  plans: z.array(hostPlan),
  regions: z.array(hostRegion),
  targets: z.object({ ipv4: z.array(z.string()), ipv6: z.array(z.string()), edge: z.string().nullable() }),
});
export type HostOffer = z.infer<typeof hostOffer>;

/** The part of a host that answers for names and speaks TLS itself. */
export interface HostNaming {
  offer(): Promise<HostOffer>;
  setNames(site: string, names: SiteNames): Promise<void>;
  setCertificate(site: string, certificate: CertificateFiles): Promise<void>;
  /** Changes the temporary address. Where it is taken: a DomainError `temporary-name-taken` with free ones beside it. */
  setTemporaryName(site: string, name: { label: string; keepOldUntilMs: number | null }): Promise<void>;
}

/** Refuses paths that climb, start at a root, or hold what no file name may. */
export function isSafePath(path: string): boolean {
  if (path.startsWith('/') || /[\0-\x1f\\]/.test(path)) return false;
  return path.split('/').every((segment) => segment !== '' && segment !== '.' && segment !== '..');
}
