/** Processes that nobody waits for give way to those that somebody does. */
import { readdirSync, readFileSync } from 'node:fs';
import { setPriority } from 'node:os';

/** Of the 20 steps of nice(1), near the last: it runs when little else does. */
const UNHURRIED = 15;

/** Lowers the priority of everything this process started that runs a program, and of what that started. */
export function letOthersGoFirst(program: string): void {
  const parents = new Map<number, number>();
  for (const name of readdirSync('/proc').filter((each) => /^\d+$/.test(each))) {
    const parent = parentOf(name);
    if (parent !== undefined) parents.set(Number(name), parent);
  }
  const isOurs = (pid: number | undefined): boolean => pid !== undefined && pid > 1 && (pid === process.pid || isOurs(parents.get(pid)));
  for (const pid of parents.keys()) {
    if (pid === process.pid || !isOurs(pid) || !runs(pid, program)) continue;
    try {
      setPriority(pid, UNHURRIED);
    } catch {
      // It has ended meanwhile.
    }
  }
}

/** proc_pid_stat(5): the fourth field, behind a name in brackets that may hold anything. */
function parentOf(pid: string): number | undefined {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'latin1');
    return Number(stat.slice(stat.lastIndexOf(')') + 2).split(' ')[1]);
  } catch {
    return undefined;
  }
}

/** Debian's chromium is a script that becomes the program of the same name. */
function runs(pid: number, program: string): boolean {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'latin1').split('\0')[0]?.includes(program.slice(program.lastIndexOf('/') + 1)) ?? false;
  } catch {
    return false;
  }
}
