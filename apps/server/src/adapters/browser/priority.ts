/** Processes that nobody waits for give way to those that somebody does. */
import { execFile } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { promisify } from 'node:util';

const run = promisify(execFile);

/**
 * Everything this process started that runs a program, and what that started and will start, is scheduled as
 * SCHED_IDLE of sched(7): it runs when little else does. A nice value is not enough, for the program sets those
 * of its own processes where it may. By chrt(1) of util-linux.
 */
export async function letOthersGoFirst(program: string): Promise<void> {
  const parents = new Map<number, number>();
  for (const name of readdirSync('/proc').filter((each) => /^\d+$/.test(each))) {
    const parent = readParent(name);
    if (parent !== undefined) parents.set(Number(name), parent);
  }
  const isOurs = (pid: number | undefined): boolean =>
    pid !== undefined && pid > 1 && (pid === process.pid || isOurs(parents.get(pid)));
  const pids = [...parents.keys()].filter((pid) => pid !== process.pid && isOurs(pid) && isRunning(pid, program));
  // One may have ended meanwhile.
  await Promise.all(
    pids.map((pid) => run('chrt', ['--all-tasks', '--idle', '--pid', '0', String(pid)]).catch(() => undefined)),
  );
}

/** proc_pid_stat(5): the fourth field, behind a name in brackets that may hold anything. */
function readParent(pid: string): number | undefined {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'latin1');
    return Number(stat.slice(stat.lastIndexOf(')') + 2).split(' ')[1]);
  } catch {
    return undefined;
  }
}

/** Debian's chromium is a script that becomes the program of the same name. */
function isRunning(pid: number, program: string): boolean {
  try {
    return (
      readFileSync(`/proc/${pid}/cmdline`, 'latin1')
        .split('\0')[0]
        ?.includes(program.slice(program.lastIndexOf('/') + 1)) ?? false
    );
  } catch {
    return false;
  }
}
