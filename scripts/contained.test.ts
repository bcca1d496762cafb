/** What a run of the tests starts ends with it, however it ends. Source: pid_namespaces(7), prctl(2). */
import { spawn, spawnSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';

const { wayOfContaining } = (await import(new URL('lib/contained.mjs', import.meta.url).href)) as {
  wayOfContaining(): string[] | undefined;
};
const lib = new URL('lib/contained.mjs', import.meta.url).href;

/** Processes that name it in their command, whoever their parent is by now. */
const named = (name: string): string[] =>
  readdirSync('/proc').filter((pid) => {
    if (!/^\d+$/.test(pid)) return false;
    try {
      return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(name);
    } catch {
      return false;
    }
  });

/** A server that leaves its parent at once, as PostgreSQL does, and a command that then waits. */
const run = (name: string, last: string) =>
  spawn(
    process.execPath,
    [
      '-e',
      `import('${lib}').then(async ({ runContained }) => process.exit(await runContained(['sh', '-c', 'setsid sh -c "sleep 600; : ${name}" > /dev/null 2>&1 & ${last}'], process.env)))`,
    ],
    { stdio: 'ignore' },
  );

describe.skipIf(wayOfContaining() === undefined)('a contained run', () => {
  it.each([
    ['is killed outright', 'SIGKILL'],
    ['is ended', 'SIGTERM'],
    ['is interrupted', 'SIGINT'],
  ] as const)('a server that went its own way is gone when the run %s', async (_, signal) => {
    const name = randomUUID();
    const child = run(name, 'sleep 600');
    const isServer = () => named(name).some((pid) => readFileSync(`/proc/${pid}/cmdline`, 'utf8').startsWith('sh\0'));
    await expect.poll(isServer, { timeout: 20_000 }).toBe(true);
    child.kill(signal);
    await expect.poll(() => named(name), { timeout: 20_000 }).toEqual([]);
  });

  it('and when it comes to its own end, whose status it is', async () => {
    const name = randomUUID();
    const child = run(name, 'sleep 0.2; exit 7');
    const status = await new Promise((resolve) => {
      child.once('exit', resolve);
    });
    expect(status).toBe(7);
    await expect.poll(() => named(name), { timeout: 20_000 }).toEqual([]);
  });

  it('what ended inside is buried there: whoever waits for a process to be gone waits no longer than it lives', () => {
    const { stdout } = spawnSync(
      process.execPath,
      [
        '-e',
        `import('${lib}').then(({ runContained }) => runContained(['sh', '-c', '(setsid sh -c "sleep 0.1" &) ; sleep 1; ps -eo stat= | grep -c Z'], process.env))`,
      ],
      { encoding: 'utf8' },
    );
    expect(stdout.trim()).toBe('0');
  });
});
