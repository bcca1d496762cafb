/** The service of systemd, held by systemd's own checks: that it can be read, and how little it may. */
import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { expect, it } from 'vitest';

const run = promisify(execFile);
const unit = new URL('../deploy/fastigium@.service', import.meta.url).pathname;

it('can be read, with nothing to complain of', async () => {
  const { stdout, stderr } = await run('systemd-analyze', ['verify', unit]).catch(
    (error: { stdout: string; stderr: string }) => error,
  );
  // What it runs stands elsewhere than here, where this is tried.
  expect((stdout + stderr).split('\n').filter((line) => line !== '' && !line.includes('is not executable'))).toEqual(
    [],
  );
});

it('may little: by systemd’s own score, of which ten is everything', async () => {
  // Three is what it calls OK; without any of its settings it is 9.2.
  const { stdout } = await run('systemd-analyze', ['security', '--offline=true', '--threshold=30', unit]);
  expect(Number(/exposure level for fastigium@\S*: ([\d.]+)/i.exec(stdout)?.[1])).toBeLessThanOrEqual(3);
});
