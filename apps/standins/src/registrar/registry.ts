/** Who holds which name, and each name's zone: one JSON file, simulated from end to end. */
import { existsSync, readFileSync } from 'node:fs';
import { randomBytes } from 'node:crypto';
import {
  findConflicts,
  isWithin,
  readZone,
  type DomainName,
  type ResourceRecord,
  type ZoneProblem,
} from '@fastigium/core/dns';
import type { NamePrice } from '@fastigium/core/domain';
import { z } from 'zod';
import { writeWhole } from '../world/files.ts';

const record = z.object({ name: z.string(), type: z.string(), ttlSeconds: z.number().int().min(0), data: z.string() });

const holding = z.object({
  name: z.string(),
  /** `account`: ours, with a zone panel; `elsewhere`: somebody else's. */
  heldBy: z.enum(['account', 'elsewhere']),
  registeredAtMs: z.number(),
  expiresAtMs: z.number(),
  privacy: z.boolean(),
  records: z.array(record),
  updateKey: z.object({ name: z.string(), secret: z.string() }).nullable(),
});
export type Holding = z.infer<typeof holding>;

/** What the world looks like before anyone did anything. */
export const worldSeed = z.object({
  holdings: z
    .array(
      z.object({
        name: z.string(),
        heldBy: z.enum(['account', 'elsewhere']),
        registeredYearsAgo: z.number(),
        yearsLeft: z.number(),
        /** A zone file; empty for names held elsewhere. */
        zone: z.string().default(''),
        updates: z.boolean().default(true),
      }),
    )
    .default([]),
});
export type WorldSeed = z.infer<typeof worldSeed>;

export const NAME_SERVERS = ['ns1.registrar.test', 'ns2.registrar.test'] as const;
const YEAR_MS = 365.25 * 86_400_000;

/** Endings sold here, all of them reserved for documentation and tests (RFC 2606), with invented prices. */
export const PRICES: Readonly<Record<string, NamePrice>> = {
  example: { currency: 'USD', firstYearCents: 1200, renewalCents: 1600, privacyCents: 300, longTermPercent: 2 },
  test: { currency: 'USD', firstYearCents: 900, renewalCents: 1500, privacyCents: 300, longTermPercent: 2 },
  'org.example': { currency: 'USD', firstYearCents: 1400, renewalCents: 1400, privacyCents: 0, longTermPercent: 0 },
  'science.example': {
    currency: 'USD',
    firstYearCents: 700,
    renewalCents: 2600,
    privacyCents: 300,
    longTermPercent: 0,
  },
  'wales.example': { currency: 'USD', firstYearCents: 1800, renewalCents: 2000, privacyCents: 0, longTermPercent: 3 },
  'museum.test': { currency: 'USD', firstYearCents: 2400, renewalCents: 2400, privacyCents: 0, longTermPercent: 5 },
};

export type ZoneChange = { readonly ok: true } | { readonly ok: false; readonly reason: string };

export class Registry {
  readonly #file: string;
  readonly #now: () => number;
  readonly #holdings = new Map<DomainName, Holding>();
  readonly #listeners = new Set<(zone: DomainName, before: readonly ResourceRecord[]) => void>();

  constructor(file: string, now: () => number, seed: WorldSeed) {
    this.#file = file;
    this.#now = now;
    const known = existsSync(file)
      ? z.array(holding).parse(JSON.parse(readFileSync(file, 'utf8')))
      : seed.holdings.map((each) => this.#seeded(each));
    for (const each of known) this.#holdings.set(each.name, each);
  }

  #seeded(seed: WorldSeed['holdings'][number]): Holding {
    const zone = seed.zone === '' ? undefined : readZone(seed.zone, seed.name);
    if (zone && !zone.ok)
      throw new Error(`The seed's zone ${seed.name} is not right: ${describeProblem(zone.problems[0])}`);
    return {
      name: seed.name,
      heldBy: seed.heldBy,
      privacy: false,
      registeredAtMs: this.#now() - seed.registeredYearsAgo * YEAR_MS,
      expiresAtMs: this.#now() + seed.yearsLeft * YEAR_MS,
      records: [...(zone?.records ?? [])],
      updateKey: seed.updates && seed.heldBy === 'account' ? createKey(seed.name) : null,
    };
  }

  /** Told with the records as they were, before anyone can ask for the new ones. */
  onZoneChange(listener: (zone: DomainName, before: readonly ResourceRecord[]) => void): void {
    this.#listeners.add(listener);
  }

  find(name: DomainName): Holding | undefined {
    return this.#holdings.get(name);
  }

  /** The zone a name is in, the longest that fits. */
  zoneOf(name: DomainName): Holding | undefined {
    for (let at: string = name; at !== ''; at = at.includes('.') ? at.slice(at.indexOf('.') + 1) : '') {
      const found = this.#holdings.get(at);
      if (found?.heldBy === 'account') return found;
    }
    return undefined;
  }

  ending(name: DomainName): string | undefined {
    return Object.keys(PRICES)
      .filter((ending) => name.endsWith(`.${ending}`) && !name.slice(0, -(ending.length + 1)).includes('.'))
      .sort((a, b) => b.length - a.length)[0];
  }

  async register(name: DomainName, years: number, privacy: boolean): Promise<Holding> {
    const now = this.#now();
    const fresh: Holding = {
      name,
      heldBy: 'account',
      registeredAtMs: now,
      expiresAtMs: now + years * YEAR_MS,
      privacy,
      updateKey: createKey(name),
      records: [
        {
          name,
          type: 'SOA',
          ttlSeconds: 3600,
          data: `${NAME_SERVERS[0]}. hostmaster.registrar.test. 1 7200 900 1209600 600`,
        },
        ...NAME_SERVERS.map((server) => ({ name, type: 'NS', ttlSeconds: 86_400, data: `${server}.` })),
      ],
    };
    this.#holdings.set(name, fresh);
    await this.#save();
    return fresh;
  }

  /** Takes a zone over whole, with a new serial; refused where it would not be a zone. */
  async replaceZone(zone: DomainName, records: readonly ResourceRecord[]): Promise<ZoneChange> {
    const current = this.#holdings.get(zone);
    if (!current || current.heldBy !== 'account') return { ok: false, reason: 'this zone is not held here' };
    const outside = records.find(({ name }) => !isWithin(name, zone));
    if (outside) return { ok: false, reason: `${outside.name} is not in ${zone}` };
    const [conflict] = findConflicts(records);
    if (conflict)
      return {
        ok: false,
        reason: `${conflict.record.type} cannot stand at ${conflict.record.name} beside what is there`,
      };
    const soa =
      records.find(({ type, name }) => type === 'SOA' && name === zone) ??
      current.records.find(({ type }) => type === 'SOA');
    if (!soa || !records.some(({ type, name }) => type === 'NS' && name === zone))
      return { ok: false, reason: 'a zone keeps its SOA and NS records' };
    const before = current.records;
    const rest = records.filter(({ type }) => type !== 'SOA');
    this.#holdings.set(zone, { ...current, records: [{ ...soa, data: raiseSerial(soa.data) }, ...rest] });
    for (const listener of this.#listeners) listener(zone, before);
    await this.#save();
    return { ok: true };
  }

  async #save(): Promise<void> {
    await writeWhole(this.#file, JSON.stringify([...this.#holdings.values()]), 0o600);
  }
}

function raiseSerial(soa: string): string {
  const parts = soa.split(' ');
  return [...parts.slice(0, 2), String((Number(parts[2]) + 1) % 2 ** 32), ...parts.slice(3)].join(' ');
}

const createKey = (zone: string) => ({ name: `update.${zone}`, secret: randomBytes(32).toString('base64') });

/** As a registrar of another house would say it, in a few words of its own. */
export function describeProblem(problem: ZoneProblem | undefined): string {
  if (!problem) return 'nothing is in it';
  const { code, parameters } = problem.reason;
  const filling = Object.values(parameters).filter((each) => typeof each !== 'object');
  return [`line ${problem.line}: ${code.replace('zone-fault.', '').replaceAll('-', ' ')}`, ...filling].join(', ');
}
