/**
 * A command of which nothing is left when it ends, however it ends: it runs in a namespace of processes of its own
 * (Linux, pid_namespaces(7)), whose first process takes all others with it. Where the machine allows none, it runs as
 * it is.
 */
import { spawn, spawnSync } from 'node:child_process';

/** Killed with whoever began it (prctl(2), PR_SET_PDEATHSIG), and then all that is inside with it. */
const WAYS = [
  ['setpriv', '--pdeathsig', 'KILL', 'unshare', '--pid', '--fork', '--kill-child', '--mount-proc'],
  [
    'setpriv',
    '--pdeathsig',
    'KILL',
    'unshare',
    '--user',
    '--map-current-user',
    '--pid',
    '--fork',
    '--kill-child',
    '--mount-proc',
  ],
];
/** The first process has to bury whatever the others leave behind, which a shell does. */
const FIRST = ['bash', '-c', '"$@"; exit $?', 'contained'];

/** How often it is looked whether whoever began this is still there. */
const LOOK_EVERY_MS = 500;

/** @returns {string[] | undefined} what is written before a command; undefined where the machine allows none */
export function wayOfContaining() {
  return WAYS.find(([program, ...args]) => spawnSync(program, [...args, 'true'], { stdio: 'ignore' }).status === 0);
}

/**
 * @param {readonly string[]} command
 * @param {NodeJS.ProcessEnv} env
 * @returns {Promise<number>} the status it ends with; 130 where it was interrupted (common practice)
 */
export function runContained(command, env) {
  const way = wayOfContaining();
  const [program, ...args] = way ? [...way, ...FIRST, ...command] : command;
  const child = spawn(program, args, { stdio: 'inherit', env });
  const parent = process.ppid;
  const stop = () => child.kill('SIGKILL');
  const look = setInterval(() => {
    if (process.ppid !== parent) stop();
  }, LOOK_EVERY_MS);
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.once(signal, stop);
  return new Promise((resolve, reject) => {
    child.once('error', reject);
    child.once('exit', (status) => {
      clearInterval(look);
      resolve(status ?? 130);
    });
  });
}
