/**
 * A caching resolver: it asks the authority over the wire, keeps each answer for its TTL by the world
 * clock, and hands it on with what is left (RFC 1035 section 7.4). "There is none" is kept for the SOA's
 * negative TTL (RFC 2308 section 5).
 */
import { setTimeout as pause } from 'node:timers/promises';
import { createServer } from 'node:net';
import { reckonNegativeTtlSeconds, groupRecordSets, type DomainName, type ResourceRecord } from '@fastigium/core/dns';
import { ask, decodeQuestion, encodeReply, RCODES, type Asked, type ServerReply } from '@fastigium/wire';
import { openUdp, serveTcp, stopBoth, type RunningNameServer } from '../nameserver/server.ts';
import type { ResolverFault } from '../world/faults.ts';
import { listen } from '../world/listen.ts';
import type { Habit } from './habits.ts';

interface Kept {
  readonly untilMs: number;
  readonly rcode: number;
  readonly answers: readonly ResourceRecord[];
  readonly authorities: readonly ResourceRecord[];
}

const UPSTREAM_WITHIN_MS = 2000;
const MOST_CNAMES = 8;
const FAILED: ServerReply = {
  rcode: RCODES.SERVFAIL,
  authoritative: false,
  recursionAvailable: true,
  answers: [],
  authorities: [],
};

export interface RunningResolver extends RunningNameServer {
  /** Other people's visits: the zone's sets as they were are in the cache, part of their time gone. */
  warm(zone: DomainName, before: readonly ResourceRecord[]): void;
  forget(): void;
}

export async function startResolver(options: {
  habit: Habit;
  address: string;
  port: number;
  authorities: readonly { address: string; port: number }[];
  fault: () => ResolverFault;
  nowMs: () => number;
}): Promise<RunningResolver> {
  const { habit, authorities, fault, nowMs } = options;
  const cache = new Map<string, Kept>();
  const known = new Set<string>();
  const keyOf = (name: string, type: string) => `${name} ${type}`;
  const keptFor = (ttlSeconds: number) => Math.min(habit.capSeconds, Math.max(habit.floorSeconds, ttlSeconds));

  /** Follows CNAMEs link by link, each kept for its own time. */
  async function resolve(name: DomainName, type: string, hops = 0): Promise<ServerReply> {
    const kept =
      freshlyKept(name, type) ??
      (type === 'CNAME' ? undefined : freshlyKept(name, 'CNAME')) ??
      (await fetch(name, type));
    const here: ServerReply = {
      rcode: kept.rcode,
      authoritative: false,
      recursionAvailable: true,
      answers: aged(kept, kept.answers),
      authorities: aged(kept, kept.authorities),
    };
    const last = kept.answers.at(-1);
    if (last?.type !== 'CNAME' || type === 'CNAME' || hops >= MOST_CNAMES) return here;
    const rest = await resolve(last.data.replace(/\.$/, ''), type, hops + 1);
    return { ...rest, answers: [...here.answers, ...rest.answers] };
  }

  function freshlyKept(name: DomainName, type: string): Kept | undefined {
    const kept = cache.get(keyOf(name, type));
    return kept && kept.untilMs > nowMs() ? kept : undefined;
  }

  async function fetch(name: DomainName, type: string): Promise<Kept> {
    for (const authority of authorities) {
      try {
        const reply = await ask(authority, { name, type }, { recursion: false, withinMs: UPSTREAM_WITHIN_MS });
        if (reply.rcode !== 'NOERROR' && reply.rcode !== 'NXDOMAIN') continue;
        // Only what is asked for is kept; a chain's later links are asked for by themselves.
        const answers = reply.answers.filter((record) => record.name === name);
        const soa = reply.authorities.find((record) => record.type === 'SOA');
        const ttl =
          answers.length > 0
            ? Math.min(...answers.map(({ ttlSeconds }) => ttlSeconds))
            : soa
              ? reckonNegativeTtlSeconds(soa.ttlSeconds, soa.data)
              : 0;
        // The first time this resolver is asked from here, others have asked before: part of the time is gone.
        const first = !known.has(keyOf(name, type));
        known.add(keyOf(name, type));
        const kept: Kept = {
          untilMs: nowMs() + Math.ceil(keptFor(ttl) * (first ? habit.warmth : 1)) * 1000,
          rcode: answers.length > 0 ? RCODES.NOERROR : RCODES[reply.rcode],
          answers: answers,
          authorities: answers.length > 0 ? [] : [...reply.authorities],
        };
        cache.set(keyOf(name, answers[0]?.type ?? type), kept);
        return kept;
      } catch {
        // The next authority may answer.
      }
    }
    return { untilMs: nowMs(), rcode: RCODES.SERVFAIL, answers: [], authorities: [] };
  }

  const aged = (kept: Kept, records: readonly ResourceRecord[]): ResourceRecord[] => {
    const ttlSeconds = Math.max(0, Math.ceil((kept.untilMs - nowMs()) / 1000));
    return records.map((record) => ({ ...record, ttlSeconds }));
  };

  async function respond(bytes: Buffer, overUdp: boolean): Promise<Buffer | undefined> {
    const asked = decodeQuestion(bytes);
    if (!asked || fault() === 'silent') return undefined;
    if (habit.delayMs > 0) await pause(habit.delayMs);
    if (fault() === 'refuses') return encodeReply(asked, { ...FAILED, rcode: RCODES.REFUSED });
    const mixedUp: Asked = fault() === 'mixes-up' ? { ...asked, id: (asked.id + 1) % 65_536 } : asked;
    return encodeReply(
      mixedUp,
      fault() === 'lies' ? lie(asked) : await resolve(asked.name, asked.type),
      overUdp ? asked.udpBytes : undefined,
    );
  }

  const tcp = createServer((socket) => serveTcp(socket, (bytes) => respond(bytes, false)));
  const port = await listen(tcp, options.port, options.address);
  const udp = await openUdp(options.address, port, (bytes) => respond(bytes, true));
  return {
    port,
    stop: () => stopBoth(udp, tcp),
    forget: () => cache.clear(),
    warm(zone, before) {
      const sets = groupRecordSets(before);
      const soa = sets.find(({ name, type }) => name === zone && type === 'SOA');
      const negativeFor = soa ? reckonNegativeTtlSeconds(soa.ttlSeconds, soa.data[0] ?? '') : 0;
      const put = (name: string, type: string, ttl: number, kept: Omit<Kept, 'untilMs'>) => {
        known.add(keyOf(name, type));
        const old = cache.get(keyOf(name, type));
        if (!old || old.untilMs <= nowMs())
          cache.set(keyOf(name, type), { ...kept, untilMs: nowMs() + Math.ceil(keptFor(ttl) * habit.warmth) * 1000 });
      };
      for (const set of sets) {
        put(set.name, set.type, set.ttlSeconds, {
          rcode: RCODES.NOERROR,
          answers: set.data.map((data) => ({ name: set.name, type: set.type, ttlSeconds: set.ttlSeconds, data })),
          authorities: [],
        });
      }
      if (!soa) return;
      const authority = [{ name: zone, type: 'SOA', ttlSeconds: negativeFor, data: soa.data[0] ?? '' }];
      // Browsers ask for both kinds of address, so what was not there is remembered as well.
      for (const name of [zone, `www.${zone}`]) {
        const there = sets.filter((set) => set.name === name);
        if (there.some(({ type }) => type === 'CNAME')) continue;
        const rcode = there.length > 0 ? RCODES.NOERROR : RCODES.NXDOMAIN;
        for (const type of ['A', 'AAAA'])
          if (!there.some((set) => set.type === type))
            put(name, type, negativeFor, { rcode, answers: [], authorities: authority });
      }
    },
  };
}

/** A resolver that sends everyone somewhere else, as some hotel networks do. */
function lie({ name, type }: Asked): ServerReply {
  const answers = type === 'A' ? [{ name, type: 'A', ttlSeconds: 60, data: '192.0.2.66' }] : [];
  return { rcode: RCODES.NOERROR, authoritative: false, recursionAvailable: true, answers, authorities: [] };
}
