/** Publishing one changed page of a large site, against rsync with checksums on the same tree and change. */
import { execFileSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { writeLargeSite } from '../demo/large/build.ts';
import { decide } from '../apps/server/src/features/draft/decide.ts';
import { publish } from '../apps/server/src/features/releases/publish.ts';
import type { Figure } from './figures.ts';
import { median, openBenchHouse, timed, type BenchHouse } from './house.ts';

const RUNS = 5;

interface Measured {
  readonly publishMs: number;
  readonly rsyncMs: number;
  readonly sentBytes: number;
  readonly changedBytes: number;
}

export async function republishBench(): Promise<Figure[]> {
  const house = await openBenchHouse();
  try {
    const small = await measure(house, 1_000);
    const large = await measure(house, 10_000);
    const words = ({ publishMs, rsyncMs }: Measured) => `${publishMs.toFixed(1)} ms : ${rsyncMs.toFixed(1)} ms`;
    return [
      {
        name: 'republish 1 of 10,000 files : rsync -a --checksum',
        value: large.publishMs / large.rsyncMs,
        unit: 'ratio',
        most: 0.3,
        from: words(large),
      },
      {
        name: 'bytes sent : changed file',
        value: large.sentBytes / large.changedBytes,
        unit: 'ratio',
        most: 1.2,
        from: `${large.sentBytes} B : ${large.changedBytes} B`,
      },
      {
        name: 'republish in 10,000 files : in 1,000 files',
        value: large.publishMs / small.publishMs,
        unit: 'ratio',
        most: 3,
        from: `${large.publishMs.toFixed(1)} ms : ${small.publishMs.toFixed(1)} ms; rsync ${(large.rsyncMs / small.rsyncMs).toFixed(1)} times`,
      },
    ];
  } finally {
    await house.stop();
  }
}

async function measure(house: BenchHouse, files: number): Promise<Measured> {
  const source = join(house.folder, `site-${files}`);
  const target = join(house.folder, `copy-${files}`);
  writeLargeSite(source, files);
  mkdirSync(target);
  const rsync = () => void execFileSync('rsync', ['-a', '--checksum', `${source}/`, `${target}/`]);
  rsync();
  const site = await house.bringIn(`Large ${files}`, source);
  const { deps, owner } = house;
  const release = async () => {
    const { version } = await deps.db.one<{ version: number }>('select version from site where id = $1', [site]);
    await house.ended((await publish(deps, site, owner, { version, note: '', leaveOut: [] })).job);
  };
  await release();

  const path = 'section-3/page-151/index.html';
  const page = await deps.db.one<{ id: string }>('select id from page where site_id = $1 and source_path = $2', [
    site,
    path,
  ]);
  // What was written so far goes to the disk first, so that nobody waits for another's pages.
  execFileSync('sync');
  const [publishing, copying]: [number[], number[]] = [[], []];
  for (let run = 0; run <= RUNS; run += 1) {
    // The inspection of the last release asks for every page; it is over before the next one begins.
    await house.quiet();
    const title = `Changed title, run ${run} of ${files}`;
    // The change itself is part of it on both sides: deciding here, writing the file there.
    const publishMs = await timed(async () => {
      const { version } = await deps.db.one<{ version: number }>('select version from site where id = $1', [site]);
      await decide(deps, site, owner, { version, decision: { kind: 'title', page: page.id, title } });
      await release();
    });
    const copyMs = await timed(() => {
      const file = join(source, path);
      writeFileSync(file, readFileSync(file, 'utf8').replace(/<title>.*<\/title>/, `<title>${title}</title>`));
      rsync();
    });
    if (run === 0) continue;
    publishing.push(publishMs);
    copying.push(copyMs);
  }
  const { sent } = await deps.db.one<{ sent: number }>(
    'select bytes_sent as sent from release where site_id = $1 order by number desc limit 1',
    [site],
  );
  return {
    publishMs: median(publishing),
    rsyncMs: median(copying),
    sentBytes: sent,
    changedBytes: readFileSync(join(source, path)).length,
  };
}
