/**
 * Old addresses brought in at any size: what a list costs by its length, a log read and counted against awk counting the
 * same by hash, and the memory it takes. The database's own time is that of its processes (proc(5), utime and stime).
 */
import { execFileSync } from 'node:child_process';
import { closeSync, createReadStream, openSync, readFileSync, statSync, writeSync } from 'node:fs';
import { basename, join } from 'node:path';
import { gatherFile } from '../apps/server/src/features/redirects/gather/file.ts';
import type { Figure } from './figures.ts';
import { openBenchHouse, type BenchHouse } from './house.ts';
import { createSite } from '../apps/server/src/features/sites/sites.ts';

const MB = 1_000_000;
/** Clock ticks a second of /proc, on every Linux (sysconf(3), _SC_CLK_TCK). */
const TICKS = 100;

export async function gatheringBench(): Promise<Figure[]> {
  const house = await openBenchHouse();
  try {
    const [few, many, most] = [await list(house, 10_000), await list(house, 100_000), await list(house, 1_000_000)];
    const log = await readLog(house, 'log', 200 * MB, 200_000);
    const large = await readLog(house, 'large-log', 1000 * MB, 2_000_000);
    return [
      {
        name: 'a table of 100,000 addresses : of 10,000',
        value: many.ms / few.ms,
        unit: 'ratio',
        most: 12,
        from: `${say(many)} : ${say(few)}`,
      },
      {
        name: 'a table of 1,000,000 addresses : of 100,000',
        value: most.ms / many.ms,
        unit: 'ratio',
        most: 12,
        from: `${say(most)} : ${say(many)}`,
      },
      {
        name: 'a log of 200 MB read and kept : awk counting it',
        value: log.ms / log.awkMs,
        unit: 'ratio',
        most: 2,
        from: `${say(log)} : ${log.awkMs.toFixed(0)} ms; ${log.kept} addresses kept`,
      },
      {
        name: 'a log of 1 GB, 2,000,000 addresses : awk counting it',
        value: large.ms / large.awkMs,
        unit: 'ratio',
        most: 2,
        from: `${say(large)} : ${large.awkMs.toFixed(0)} ms; ${large.kept} addresses kept`,
      },
      {
        name: 'most memory of the process meanwhile',
        value: Math.max(most.mostBytes, log.mostBytes, large.mostBytes) / MB,
        unit: 'MB',
        most: 1500,
        from: `${(few.mostBytes / MB).toFixed(0)} MB for 10,000; worker threads included`,
      },
    ];
  } finally {
    await house.stop();
  }
}

interface Taken {
  readonly ms: number;
  readonly databaseMs: number;
  readonly mostBytes: number;
  readonly kept: number;
}

const say = ({ ms, databaseMs }: Taken) => `${ms.toFixed(0)} ms (the database ${databaseMs.toFixed(0)} ms)`;

function list(house: BenchHouse, count: number): Promise<Taken> {
  const path = join(house.folder, `list-${count}.csv`);
  const file = openSync(path, 'w');
  writeSync(file, 'address,visits\n');
  for (let n = 0; n < count; n += 1)
    writeSync(file, `/archive/${n % 97}/subject-${n % 1000}-${n}.php,${(n * 7) % 900}\n`);
  closeSync(file);
  return take(house, path, '{"address":0,"visits":1}');
}

async function readLog(
  house: BenchHouse,
  name: string,
  bytes: number,
  distinct: number,
): Promise<Taken & { awkMs: number }> {
  const path = join(house.folder, `${name}.txt`);
  writeLog(path, bytes, distinct);
  const began = performance.now();
  execFileSync('awk', ['{ count[$7]++ } END { n = 0; for (each in count) n++; print n }', path]);
  const awkMs = performance.now() - began;
  return { ...(await take(house, path)), awkMs };
}

/** Half of the requests are for a tenth of the addresses; nine of ten addresses never answered and came from nowhere. */
function writeLog(path: string, bytes: number, distinct: number): void {
  const file = openSync(path, 'w');
  const agents = [
    'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0',
    'ExampleBot/2.1 (+https://bot.example/)',
  ];
  let written = 0;
  for (let n = 0; written < bytes;) {
    let lines = '';
    for (let i = 0; i < 5000; i += 1, n += 1) {
      const which = n % 2 === 0 ? (n * 7919) % Math.ceil(distinct / 10) : (n * 104_729) % distinct;
      const isPage = which % 10 === 0;
      const address = isPage ? `/archive/${which % 97}/subject-${which}.php` : `/wp/${which}/probe-${which}?x=${which}`;
      const second = String(Math.floor(n / 20) % 60).padStart(2, '0');
      lines += `203.0.113.${n % 250} - - [25/Nov/2026:10:${String(Math.floor(n / 1200) % 60).padStart(2, '0')}:${second} +0000] "GET ${address} HTTP/1.1" ${isPage ? 200 : 404} 5120 "${isPage ? 'https://www.example/' : '-'}" "${agents[n % 3 === 0 ? 1 : 0]}"\n`;
    }
    written += writeSync(file, lines);
  }
  closeSync(file);
}

async function take({ deps, owner, ...house }: BenchHouse, path: string, columns?: string): Promise<Taken> {
  const { id: site } = await createSite(deps, owner.team, basename(path));
  const before = readTicks(house.databasePids());
  let mostBytes = 0;
  const watching = setInterval(() => (mostBytes = Math.max(mostBytes, process.memoryUsage().rss)), 50);
  const began = performance.now();
  try {
    await gatherFile(
      { ...deps, db: deps.db.forWork },
      { site, by: owner.id, fileName: basename(path), columns, ...(columns === undefined ? {} : { hasNames: true }) },
      { sizeBytes: statSync(path).size, read: () => createReadStream(path, { highWaterMark: 256 * 1024 }) },
    );
  } finally {
    clearInterval(watching);
  }
  const ms = performance.now() - began;
  const databaseMs = ((readTicks(house.databasePids()) - before) * 1000) / TICKS;
  const { kept } = await deps.db.one<{ kept: number }>(
    'select count(*)::int as kept from old_address where site_id = $1',
    [site],
  );
  return { ms, databaseMs, mostBytes, kept };
}

/** Of a postmaster with all it has waited for, and of its processes that are there now: utime, stime, cutime, cstime. */
function readTicks(pids: readonly number[]): number {
  return pids.reduce((sum, pid) => {
    const fields = readFileSync(`/proc/${pid}/stat`, 'utf8')
      .replace(/^.*\) /s, '')
      .split(' ');
    return sum + [11, 12, 13, 14].reduce((ticks, at) => ticks + Number(fields[at]), 0);
  }, 0);
}
