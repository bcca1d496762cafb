/**
 * What strangers can do to everybody else: the longest stop of the server's event loop under each attack that needs no
 * account, and how long the process takes to say that it lives while its database is frozen.
 */
import { execFile } from 'node:child_process';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import { setTimeout as pause } from 'node:timers/promises';
import { promisify } from 'node:util';
import type { Figure } from './figures.ts';
import { openBenchHouse } from './house.ts';

const run = promisify(execFile);
const ATTACKER = new URL('strangers.attacker.mjs', import.meta.url).pathname;
const SECONDS = 4;
const RESOLUTION_MS = 5;
const MOST_STOP_MS = 100;
const MOST_HEALTH_MS = 2000;

const ATTACKS = [
  'JSON of 16 MB, nested',
  'JSON of 16 MB to the sign-in',
  'a first owner, again and again',
  'invitations that are none',
  'passwords guessed',
  'questions without an end',
  'names that are not its own',
  'previews that nobody signed',
  'heads of 15 KB',
  'uploads that stand still',
];

export async function strangersBench(): Promise<Figure[]> {
  const house = await openBenchHouse();
  try {
    const { port } = new URL(house.url);
    const figures: Figure[] = [];
    // Once, so that what is compiled at its first use is not counted for an attack.
    await run(process.execPath, [ATTACKER, 'questions without an end', port, String(house.previewPort), '1']);
    for (const attack of ATTACKS) {
      const delay = monitorEventLoopDelay({ resolution: RESOLUTION_MS });
      delay.enable();
      const { stdout } = await run(process.execPath, [
        ATTACKER,
        attack,
        port,
        String(house.previewPort),
        String(SECONDS),
      ]);
      delay.disable();
      figures.push({
        name: `longest stop of the event loop: ${attack}`,
        value: Math.max(0, delay.max / 1e6 - RESOLUTION_MS),
        unit: 'ms',
        most: MOST_STOP_MS,
        from: `${stdout.trim()} requests in ${SECONDS} s, 16 at once, by a process beside it`,
      });
    }
    figures.push(await frozenHealth(house));
    return figures;
  } finally {
    await house.stop();
  }
}

/** All of PostgreSQL's processes stand still (SIGSTOP); whoever asks has to be told that this one lives. */
async function frozenHealth(house: Awaited<ReturnType<typeof openBenchHouse>>): Promise<Figure> {
  const pids = house.databasePids();
  const signal = (name: 'SIGSTOP' | 'SIGCONT') => {
    for (const pid of pids)
      try {
        process.kill(pid, name);
      } catch {
        // Ended by itself.
      }
  };
  signal('SIGSTOP');
  try {
    let longest = 0;
    for (let n = 0; n < 20; n += 1) {
      const begun = performance.now();
      const answer = await fetch(`${house.url}/healthz`);
      if (answer.status !== 200) throw new Error(`/healthz answers ${answer.status}`);
      longest = Math.max(longest, performance.now() - begun);
      await pause(250);
    }
    return {
      name: '/healthz while the database is frozen',
      value: longest,
      unit: 'ms',
      most: MOST_HEALTH_MS,
      from: `the longest of 20 in 5 s, ${pids.length} processes of PostgreSQL stopped`,
    };
  } finally {
    signal('SIGCONT');
  }
}
