/** A large document that changed a little, going back to an earlier release, and the list of what changed. */
import { execFileSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { randomBytes } from 'node:crypto';
import { parseShard } from '../packages/core/src/release/index.ts';
import { writeLargeSite } from '../demo/large/build.ts';
import { applyImport } from '../apps/server/src/features/imports/applyImport.ts';
import { importFolder } from '../apps/server/src/features/imports/upload.ts';
import { decide } from '../apps/server/src/features/draft/decide.ts';
import { readChangesBetween } from '../apps/server/src/features/changes/changes.ts';
import type { ReleaseContents } from '../apps/server/src/features/shared/releaseList.ts';
import { publish, rollBack } from '../apps/server/src/features/releases/publish.ts';
import type { Figure } from './figures.ts';
import { median, openBenchHouse, timed, type BenchHouse } from './house.ts';

const DOCUMENT_BYTES = 40_000_000;
const RUNS = 5;

export async function publishingBench(): Promise<Figure[]> {
  const house = await openBenchHouse();
  try {
    const small = await rollingBack(house, 1_000);
    const large = await rollingBack(house, 10_000);
    return [
      await pieces(house),
      {
        name: 'going back among 10,000 files : among 1,000 files',
        value: large.backMs / small.backMs,
        unit: 'ratio',
        most: 2,
        from: `${large.backMs.toFixed(0)} ms : ${small.backMs.toFixed(0)} ms`,
      },
      {
        name: 'list of 500 changes : reading both manifests',
        value: large.listMs / large.readMs,
        unit: 'ratio',
        most: 3,
        from: `${large.listMs.toFixed(0)} ms : ${large.readMs.toFixed(0)} ms, 10,000 files; ${large.firstMs.toFixed(0)} ms the first time, when each page is compared`,
      },
    ];
  } finally {
    await house.stop();
  }
}

async function release(house: BenchHouse, site: string): Promise<void> {
  const { version } = await house.deps.db.one<{ version: number }>('select version from site where id = $1', [site]);
  await house.ended((await publish(house.deps, site, house.owner, { version, note: '', leaveOut: [] })).job);
}

async function bringInAgain(house: BenchHouse, site: string, folder: string): Promise<void> {
  await house.ended(await importFolder(house.deps, { site, by: house.owner.id, folder, fileName: 'newer' }));
  const { id } = await house.deps.db.one<{ id: string }>(
    `select id from import where site_id = $1 order by created_at desc limit 1`,
    [site],
  );
  const { version } = await house.deps.db.one<{ version: number }>('select version from site where id = $1', [site]);
  await applyImport(house.deps, site, id, { by: house.owner, import: id, version, choices: {} });
}

/** 1 kB inserted in the middle of 40 MB; rsync's own figure beside, as it tells it. */
async function pieces(house: BenchHouse): Promise<Figure> {
  const [source, copy] = [join(house.folder, 'document'), join(house.folder, 'document-copy')];
  for (const folder of [source, copy]) mkdirSync(folder);
  const old = randomBytes(DOCUMENT_BYTES);
  writeFileSync(
    join(source, 'index.html'),
    '<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><title>Document</title></head><body><a href="/prospectus.pdf">It</a></body></html>',
  );
  writeFileSync(join(source, 'prospectus.pdf'), old);
  // Over a line rsync compares pieces; between folders of one machine it would copy the whole unless told otherwise.
  const rsync = () =>
    execFileSync('rsync', ['-a', '--no-whole-file', '--stats', `${source}/`, `${copy}/`], { encoding: 'utf8' });
  rsync();
  const site = await house.bringIn('Document', source);
  await release(house, site);
  await house.quiet();
  writeFileSync(
    join(source, 'prospectus.pdf'),
    Buffer.concat([old.subarray(0, DOCUMENT_BYTES / 2), randomBytes(1000), old.subarray(DOCUMENT_BYTES / 2)]),
  );
  const said = rsync();
  const number = (words: string) =>
    Number((new RegExp(`${words}: ([\\d,]+)`).exec(said)?.[1] ?? '').replaceAll(',', ''));
  await bringInAgain(house, site, source);
  await release(house, site);
  const { sent } = await house.deps.db.one<{ sent: number }>(
    'select bytes_sent as sent from release where site_id = $1 order by number desc limit 1',
    [site],
  );
  return {
    name: '1 kB in the middle of 40 MB: sent : the file',
    value: sent / DOCUMENT_BYTES,
    unit: 'ratio',
    most: 0.02,
    from: `${sent} B; rsync sent ${number('Total bytes sent')} B and received ${number('Total bytes received')} B`,
  };
}

async function rollingBack(
  house: BenchHouse,
  files: number,
): Promise<{ backMs: number; firstMs: number; listMs: number; readMs: number }> {
  const { deps, owner } = house;
  const source = join(house.folder, `back-${files}`);
  writeLargeSite(source, files);
  const site = await house.bringIn(`Back ${files}`, source);
  await release(house, site);
  await changeTitles(house, site, 500);
  await release(house, site);
  const back: number[] = [];
  for (let number = 1; number <= RUNS; number += 1) {
    await house.quiet();
    // To and fro between the two: each time the release before the last one.
    back.push(await timed(async () => house.ended((await rollBack(deps, site, owner.id, number)).job)));
  }
  await house.quiet();
  const [before, after] = await deps.db.many<ReleaseContents & Record<string, unknown>>(
    'select shards, rules_hash as "rulesHash" from release where site_id = $1 and number <= 2 order by number',
    [site],
  );
  if (!before || !after) throw new Error('there are no two releases');
  // The report of the release had them compared already.
  await deps.db.run('delete from page_difference');
  const [list, read]: [number[], number[]] = [[], []];
  let firstMs = 0;
  for (let run = 0; run <= RUNS; run += 1) {
    let found = 0;
    // The first time every page is compared; what was said then is kept.
    const ms = await timed(async () => {
      found = (await readChangesBetween(deps, before, after)).difference.changed.length;
    });
    if (run === 0) firstMs = ms;
    else list.push(ms);
    if (found !== 500) throw new Error(`${found} changes were found instead of 500`);
    read.push(
      await timed(async () => {
        for (const { shards } of [before, after])
          for (const { text } of await deps.db.many<{ text: string }>(
            'select text from manifest_shard where hash = any($1)',
            [[...shards]],
          ))
            parseShard(text);
      }),
    );
  }
  return { backMs: median(back), firstMs, listMs: median(list), readMs: median(read) };
}

async function changeTitles(house: BenchHouse, site: string, count: number): Promise<void> {
  const { deps, owner } = house;
  const pages = await deps.db.many<{ id: string }>(
    `select f.page_id as id from source_file f join site s on s.current_import = f.import_id where s.id = $1 and f.page_id is not null and f.path <> 'index.html' order by f.path limit $2`,
    [site, count],
  );
  const { version } = await deps.db.one<{ version: number }>('select version from site where id = $1', [site]);
  await decide(deps, site, owner, {
    version,
    decision: {
      kind: 'head',
      settings: pages.map(({ id }, n) => ({
        scope: { kind: 'page', page: id },
        name: 'meta:description',
        text: `A description of its own, number ${n}`,
        own: null,
      })),
    },
  });
}
