/**
 * Publishing 10,000 new small files over SFTP against rsync of the same files over ssh to the same OpenSSH server, and
 * what the host stand-in answers a second against nginx serving the same folder, asked by wrk.
 */
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { largePath, writeLargeSite } from '../demo/large/build.ts';
import { publish } from '../apps/server/src/features/releases/publish.ts';
import { connectHost } from '../apps/server/src/features/hosting/hosting.ts';
import type { Figure } from './figures.ts';
import { median, openBenchHouse, timed, type BenchHouse } from './house.ts';
import { startNginx, startSsh, type BenchSsh } from './peers.ts';

const FILES = 10_000;
const ROUNDS = 5;
const WRK_SECONDS = 8;
const CONNECTIONS = 32;

export async function sendingBench(): Promise<Figure[]> {
  // The SFTP server stands on this machine, which is a private network otherwise.
  const house = await openBenchHouse({ FASTIGIUM_OPEN_NETWORKS: '127.0.0.0/8' });
  try {
    return [await overSsh(house), await answers(house)];
  } finally {
    await house.stop();
  }
}

async function overSsh(house: BenchHouse): Promise<Figure> {
  const source = join(house.folder, 'many');
  writeLargeSite(source, FILES);
  const ssh = await startSsh(join(house.folder, 'ssh'));
  try {
    const rounds: { readonly publishMs: number; readonly rsyncMs: number }[] = [];
    for (let round = 0; round < ROUNDS; round += 1) rounds.push(await oneRound(house, ssh, source, round));
    const [publishMs, rsyncMs] = [median(rounds.map((one) => one.publishMs)), median(rounds.map((one) => one.rsyncMs))];
    const all = rounds.map((one) => (one.publishMs / one.rsyncMs).toFixed(2)).join(', ');
    return {
      name: `publish ${FILES} new files over SFTP : rsync over ssh`,
      value: publishMs / rsyncMs,
      unit: 'ratio',
      most: 1,
      from: `${publishMs.toFixed(0)} ms : ${rsyncMs.toFixed(0)} ms, medians of ${ROUNDS}; one by one ${all}`,
    };
  } finally {
    await ssh.stop();
  }
}

/** Into two empty folders, each tool first in turn, since files that were just written make the next ones slower. */
async function oneRound(
  { deps, owner, ...house }: BenchHouse,
  ssh: BenchSsh,
  source: string,
  round: number,
): Promise<{ publishMs: number; rsyncMs: number }> {
  const [served, copied] = [join(house.folder, `served-${round}`), join(house.folder, `copied-${round}`)];
  for (const folder of [served, copied]) mkdirSync(folder);
  const site = await house.bringIn(`Many ${round}`, source);
  await connectHost(deps, site, owner.id, {
    kind: 'sftp',
    server: '127.0.0.1',
    port: ssh.port,
    user: ssh.user,
    folder: served,
    key: ssh.key,
    fingerprint: ssh.fingerprint,
    url: 'http://127.0.0.1:1/',
  });
  await house.quiet();
  const { version } = await deps.db.one<{ version: number }>('select version from site where id = $1', [site]);
  const rsync = () =>
    timed(
      () =>
        void execFileSync('rsync', [
          '-a',
          '-e',
          `ssh -p ${ssh.port} -i ${ssh.keyFile} -o StrictHostKeyChecking=no -o UserKnownHostsFile=/dev/null -o LogLevel=ERROR`,
          `${source}/`,
          `${ssh.user}@127.0.0.1:${copied}/`,
        ]),
    );
  execFileSync('sync');
  const rsyncFirst = round % 2 === 1 ? await rsync() : undefined;
  execFileSync('sync');
  const publishMs = await timed(async () =>
    house.ended((await publish(deps, site, owner, { version, note: '', leaveOut: [] })).job),
  );
  // What follows a publish is none of it, and none of what rsync does.
  await deps.db.run(`delete from job where kind = 'inspect' and state = 'waiting'`);
  execFileSync('sync');
  const rsyncMs = rsyncFirst ?? (await rsync());
  const differing = spawnSync('diff', ['-rq', join(served, 'current'), copied], { encoding: 'utf8' }).stdout.trim();
  if (differing !== '') throw new Error(`what was published is not what rsync copied: ${differing.slice(0, 300)}`);
  return { publishMs, rsyncMs };
}

/** The same pages by both, in turn, with the same headers asked for. */
async function answers(house: BenchHouse): Promise<Figure> {
  const source = join(house.folder, 'served-pages');
  writeLargeSite(source, 500);
  const site = await house.bringIn('Answers', source);
  const { deps, owner } = house;
  const { version, hostName } = await deps.db.one<{ version: number; hostName: string }>(
    'select version, host_name as "hostName" from site where id = $1',
    [site],
  );
  await house.ended((await publish(deps, site, owner, { version, note: '', leaveOut: [] })).job);
  await house.quiet();
  const nginx = await startNginx(join(house.folder, 'nginx'), source);
  try {
    const live = new URL((await deps.hosts.of(deps.db, site)).urlOf(hostName) ?? '');
    const script = join(house.folder, 'pages.lua');
    writeFileSync(
      script,
      `local paths = {${Array.from({ length: 500 }, (_, n) => JSON.stringify(`/${largePath(n).replace('index.html', '')}`)).join(', ')}}\nlocal at = 0\nrequest = function() at = at % #paths + 1; return wrk.format("GET", paths[at]) end\n`,
    );
    const perSecond = (port: number) =>
      Number(
        /Requests\/sec:\s+([\d.]+)/.exec(
          execFileSync(
            'wrk',
            [
              '-t1',
              `-c${CONNECTIONS}`,
              `-d${WRK_SECONDS}s`,
              '-s',
              script,
              '-H',
              `Host: ${live.host}`,
              `http://127.0.0.1:${port}/`,
            ],
            { encoding: 'utf8' },
          ),
        )?.[1],
      );
    const [own, theirs] = [perSecond(Number(live.port)), perSecond(nginx.port)];
    if (
      !(
        readFileSync(join(source, 'index.html'), 'utf8') ===
        (await (await fetch(`http://127.0.0.1:${nginx.port}/`)).text())
      )
    )
      throw new Error('nginx serves something else');
    return {
      name: 'nginx : host stand-in, answers a second',
      value: theirs / own,
      unit: 'ratio',
      most: 40,
      from: `${theirs.toFixed(0)} : ${own.toFixed(0)}, ${CONNECTIONS} connections, 500 pages`,
    };
  } finally {
    await nginx.stop();
  }
}
