/**
 * Publishing while things break: many releases of a site under steady visitors, each with a fault at a random moment,
 * processes ended by SIGKILL. Afterwards it is told what visitors met and how the site stands. The test runs a few of
 * them, the bench a hundred.
 */
import type { Release } from '@fastigium/contracts/api/releases';
import { chmod, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { zip } from '../harness.ts';
import { Visitors, wrongAnswers, type Span } from './visitors.ts';
import { FAULTS, LONGEST_WAIT_MS, NAME, Processes, type Fault } from './brokenHouse.ts';

export interface FaultRunReport {
  readonly publishes: number;
  readonly rollbacks: number;
  readonly faults: ReadonlyMap<Fault, number>;
  /** Answers that visitors got. */
  readonly answers: number;
  readonly wrong: readonly string[];
  /** What people were told that does not fit what had happened. */
  readonly said: readonly string[];
  /** What is not clean at the end. */
  readonly unclean: readonly string[];
  readonly seconds: number;
}

const PAGES = 40;

/** The same numbers for the same seed (mulberry32, common practice), so that a run that failed can be run again. */
function chance(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** Each page says in its head which version it is, by a setting for the whole site. */
const pageOf = (n: number) =>
  `<!DOCTYPE html><html><head><title>Page ${n}</title></head><body><p>${`words of page ${n} `.repeat(400)}</p><a href="/page-${(n + 1) % PAGES}/">next</a></body></html>`;
const PATHS = ['/', ...Array.from({ length: PAGES }, (_, n) => `/page-${n}/`)];

interface FaultRun {
  /** The built server. */
  readonly serverFile: string;
  readonly publishes: number;
  readonly seed: number;
  readonly faults?: readonly Fault[];
  readonly say?: (line: string) => void;
}

export async function faultRun({
  serverFile,
  publishes,
  seed,
  faults = FAULTS,
  say = () => {},
}: FaultRun): Promise<FaultRunReport> {
  const random = chance(seed);
  const folder = await mkdtemp(join(tmpdir(), 'fastigium-faults-'));
  await chmod(folder, 0o755);
  const house = await Processes.open(folder, serverFile);
  const down: Span<undefined>[] = [];
  const live: Span<string>[] = [];
  const bodies = new Map<string, string>();
  const counted = new Map<Fault, number>();
  let rollbacks = 0;
  const began = performance.now();
  try {
    const { client } = house;
    const site = await client.newSite(NAME);
    await client.bringIn(
      site,
      await zip(
        Object.fromEntries([
          ['index.html', pageOf(999)],
          ...Array.from({ length: PAGES }, (_, n) => [`page-${n}/index.html`, pageOf(n)]),
        ]),
      ),
    );
    /** As somebody does who is told to try again in a moment. */
    const setVersion = async (version: number) => {
      for (let tries = 0; ; tries += 1) {
        const stands = await client.get<{ version: number }>(`/api/sites/${site}`);
        const { status, body } =
          stands.status === 200
            ? await client.post(`/api/sites/${site}/decisions`, {
                version: stands.body.version,
                decision: {
                  kind: 'head',
                  settings: [{ scope: { kind: 'everywhere' }, name: 'meta:version', text: `v${version}` }],
                },
              })
            : stands;
        if (status === 201) return;
        if (status !== 503 || tries > 20) throw new Error(`a decision was answered ${status}: ${JSON.stringify(body)}`);
        await pause(250);
      }
    };
    const releases = async () => {
      for (let tries = 0; ; tries += 1) {
        const { status, body } = await client.get<Release[]>(`/api/sites/${site}/releases`);
        if (status === 200) return body;
        if (status !== 503 || tries > 20)
          throw new Error(`the releases were answered ${status}: ${JSON.stringify(body)}`);
        await pause(250);
      }
    };
    const readWhole = async (release: string) => {
      for (const path of PATHS) bodies.set(`${release} ${path}`, (await house.visit(path)).body);
    };
    await setVersion(0);
    await client.publish(site);
    let current = 'v0';
    await readWhole(current);
    // What a release's pages are is reckoned from the first by its version, not read back, so that nothing checks itself.
    const wholeOf = (release: string, path: string) =>
      (bodies.get(`v0 ${path}`) ?? '').replace('content="v0"', `content="${release}"`);
    let since = performance.now();
    const visitors = new Visitors(house.publicPort, `${NAME}.localhost`, PATHS);
    const numbers = new Map<number, string>([[1, 'v0']]);
    for (let n = 1; n <= publishes; n += 1) {
      const fault = faults[n % faults.length] ?? 'none';
      counted.set(fault, (counted.get(fault) ?? 0) + 1);
      await setVersion(n);
      const askedMs = performance.now();
      await house.publishUnder(fault, site, random, down);
      const doneMs = performance.now();
      // What went live in the meantime, in its order; nobody outside knows when exactly one took the other's place.
      for (const { number, rollbackOf } of (await releases())
        .filter(({ number: each, liveAt }) => liveAt !== null && !numbers.has(each))
        .sort((a, b) => a.number - b.number)) {
        live.push({ fromMs: since, toMs: doneMs, of: current });
        [since, current] = [askedMs, rollbackOf === null ? `v${n}` : (numbers.get(rollbackOf) ?? '')];
        numbers.set(number, current);
        if (rollbackOf !== null) rollbacks += 1;
      }
      say(`${n} of ${publishes}: ${fault}, ${((doneMs - askedMs) / 1000).toFixed(1)} s`);
    }
    await pause(300);
    live.push({ fromMs: since, toMs: performance.now() + LONGEST_WAIT_MS, of: current });
    await visitors.stop();
    const unclean = await house.unclean(site, PATHS, (path) => wholeOf(current, path));
    const answers = visitors.seen.filter(({ status }) => status !== 0).length;
    return {
      publishes,
      rollbacks,
      faults: counted,
      answers,
      wrong: wrongAnswers(visitors.seen, live, down, wholeOf),
      said: house.saidWrong,
      unclean,
      seconds: (performance.now() - began) / 1000,
    };
  } finally {
    await house.close();
    await rm(folder, { recursive: true, force: true });
  }
}
