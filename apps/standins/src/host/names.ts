/**
 * Which names lead to which site: temporary ones under `.localhost`, names of the owner's, certificates by
 * name, and challenges while an authority looks. Kept in one file, written whole.
 */
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { createSecureContext, type SecureContext } from 'node:tls';
import type { CertificateFiles, SiteNames } from '@fastigium/contracts/ports/host';
import { writeWhole } from '../world/files.ts';
import { Refusal } from '../world/http.ts';

interface SiteEntry {
  label: string;
  former: { label: string; untilMs: number }[];
  names: SiteNames;
  /** The newest first. */
  certificates: CertificateFiles[];
  /** As files written by earlier versions have it. */
  certificate?: CertificateFiles | null;
}

export interface Visited {
  readonly site: string;
  /** Where a visitor of this name belongs instead, path and query added. */
  readonly sendOn: { readonly origin: string; readonly status: number } | undefined;
  readonly hstsSeconds: number | undefined;
}

const NONE: SiteNames = { main: null, others: [], forceHttps: false, hstsSeconds: null };
const TEMPORARY = /^([a-z0-9-]+)\.localhost$/;
/** One name for all sites that are a path of the host. */
const SHARED_NAME = 'sites.localhost';
const CHALLENGE = /^\/\.well-known\/acme-challenge\/([A-Za-z0-9_-]+)$/;

export class HostNames {
  readonly #file: string;
  readonly #nowMs: () => number;
  readonly #sites: Map<string, SiteEntry>;
  readonly #challenges = new Map<string, string>();
  /** By the chain they serve. */
  readonly #contexts = new Map<string, SecureContext>();

  constructor(folder: string, nowMs: () => number) {
    this.#file = join(folder, 'names.json');
    this.#nowMs = nowMs;
    this.#sites = new Map(
      existsSync(this.#file)
        ? Object.entries(JSON.parse(readFileSync(this.#file, 'utf8')) as Record<string, SiteEntry>).map(
            ([site, { certificate, ...entry }]) => [
              site,
              { ...entry, certificates: [...(entry.certificates ?? []), ...(certificate ? [certificate] : [])] },
            ],
          )
        : [],
    );
  }

  #entry(site: string): SiteEntry {
    let entry = this.#sites.get(site);
    if (!entry) this.#sites.set(site, (entry = { label: site, former: [], names: NONE, certificates: [] }));
    return entry;
  }

  /** Undefined for a name that leads to no site here. */
  visited(hostHeader: string, encrypted: boolean, path: string): Visited | undefined {
    const [, name = '', port = ''] = /^(.*?)(:\d+)?$/.exec(hostHeader.toLowerCase()) ?? [];
    // The host's own name: the first folder says whose site it is, which is published under that path.
    if (name === SHARED_NAME) {
      const folder = /^\/([a-z0-9-]+)(\/|$)/.exec(path)?.[1];
      return folder === undefined ? undefined : this.#temporary(folder, port);
    }
    const label = TEMPORARY.exec(name)?.[1];
    return label === undefined ? this.#ownName(name, encrypted) : this.#temporary(label, port);
  }

  #temporary(label: string, port: string): Visited | undefined {
    for (const [site, entry] of this.#sites) {
      if (entry.label === label) return { site, sendOn: undefined, hstsSeconds: undefined };
      if (entry.former.some((former) => former.label === label && former.untilMs > this.#nowMs())) {
        return {
          site,
          sendOn: { origin: `http://${entry.label}.localhost${port}`, status: 308 },
          hstsSeconds: undefined,
        };
      }
    }
    // A site that nobody named here yet answers under the name it was published by.
    return this.#sites.has(label) ? undefined : { site: label, sendOn: undefined, hstsSeconds: undefined };
  }

  #ownName(name: string, encrypted: boolean): Visited | undefined {
    for (const [site, { names }] of this.#sites) {
      const scheme = encrypted || names.forceHttps ? 'https' : 'http';
      const other = names.others.find((each) => each.name === name);
      if (other && names.main !== null)
        return { site, sendOn: { origin: `${scheme}://${names.main}`, status: other.status }, hstsSeconds: undefined };
      if (names.main !== name) continue;
      if (names.forceHttps && !encrypted)
        return { site, sendOn: { origin: `https://${name}`, status: 308 }, hstsSeconds: undefined };
      // RFC 6797 section 7.2: never over plain http.
      return { site, sendOn: undefined, hstsSeconds: encrypted ? (names.hstsSeconds ?? undefined) : undefined };
    }
    return undefined;
  }

  challenge(path: string): string | undefined {
    const token = CHALLENGE.exec(path)?.[1];
    return token === undefined ? undefined : this.#challenges.get(token);
  }

  async setChallenge(token: string, keyAuthorization: string | null): Promise<void> {
    if (keyAuthorization === null) this.#challenges.delete(token);
    else this.#challenges.set(token, keyAuthorization);
    return Promise.resolve();
  }

  async setNames(site: string, names: SiteNames): Promise<void> {
    const wanted = [...(names.main === null ? [] : [names.main]), ...names.others.map(({ name }) => name)];
    for (const [other, entry] of this.#sites) {
      const taken =
        other === site
          ? undefined
          : wanted.find((name) => entry.names.main === name || entry.names.others.some((each) => each.name === name));
      if (taken !== undefined) throw new Refusal(409, `${taken} leads to another site at this host`);
    }
    this.#entry(site).names = names;
    await this.#save();
  }

  async setTemporary(site: string, label: string, keepOldUntilMs: number | null): Promise<void> {
    if (this.#isTaken(label, site)) {
      const free = [`${label}-site`, `${label}-new`, `${label}-2`, `${label}-3`, `the-${label}`]
        .filter((each) => !this.#isTaken(each, site))
        .slice(0, 3);
      throw new Refusal(409, 'this name is taken', { free });
    }
    const entry = this.#entry(site);
    if (entry.label === label) return;
    const former = entry.former.filter((each) => each.label !== label && each.untilMs > this.#nowMs());
    entry.former = keepOldUntilMs === null ? former : [...former, { label: entry.label, untilMs: keepOldUntilMs }];
    entry.label = label;
    await this.#save();
  }

  #isTaken(label: string, site: string): boolean {
    if (RESERVED.has(label)) return true;
    return [...this.#sites].some(
      ([other, entry]) =>
        other !== site &&
        (other === label ||
          entry.label === label ||
          entry.former.some((each) => each.label === label && each.untilMs > this.#nowMs())),
    );
  }

  async setCertificate(site: string, certificate: CertificateFiles): Promise<void> {
    // Refused at once if the two do not belong together.
    createSecureContext({ cert: certificate.chain, key: certificate.key });
    const entry = this.#entry(site);
    const covers = new Set(certificate.names);
    // One for some of a site's names stands beside those for the others.
    entry.certificates = [
      certificate,
      ...entry.certificates.filter(({ names }) => !names.every((name) => covers.has(name))),
    ];
    await this.#save();
  }

  /** The certificate by the name asked for (RFC 6066 section 3); none: the handshake ends. */
  readonly contextFor = (name: string, done: (error: Error | null, context?: SecureContext) => void): void => {
    for (const { certificates, names } of this.#sites.values()) {
      const leads = names.main === name || names.others.some((each) => each.name === name);
      const found = certificates.find((each) => each.names.includes(name));
      // As servers do where none is for the name: that of the main one, which browsers warn of.
      const main = certificates.find((each) => names.main !== null && each.names.includes(names.main));
      const certificate = found ?? (leads ? (main ?? certificates[0]) : undefined);
      if (!certificate) continue;
      let context = this.#contexts.get(certificate.chain);
      if (!context)
        this.#contexts.set(
          certificate.chain,
          (context = createSecureContext({ cert: certificate.chain, key: certificate.key })),
        );
      done(null, context);
      return;
    }
    done(new Error('no certificate for this name'));
  };

  async #save(): Promise<void> {
    await writeWhole(this.#file, JSON.stringify(Object.fromEntries(this.#sites)), 0o600);
  }
}

/** Names a host keeps for itself; common practice, no source. */
const RESERVED: ReadonlySet<string> = new Set(['www', 'mail', 'admin', 'host', 'ftp', 'api', 'status', 'sites']);
