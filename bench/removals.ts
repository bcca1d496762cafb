/** Removing and putting back a large branch of a large site, against one plain UPDATE of as many rows; and a long list of removals. */
import { chromium } from '@playwright/test';
import { join } from 'node:path';
import { writeLargeSite } from '../demo/large/build.ts';
import { decide } from '../apps/server/src/features/draft/decide.ts';
import { readSiteState } from '../apps/server/src/features/draft/history.ts';
import { readRemovalList } from '../apps/server/src/features/removals/list.ts';
import type { Figure } from './figures.ts';
import { median, openBenchHouse, timed, type BenchHouse } from './house.ts';
import { scrolled, signedIn } from './ledgers.ts';

const RUNS = 3;
const PAGES = 20_000;
const BRANCH = 5_000;
const REMOVALS = 10_000;
const LONG_MS = 50;

export async function removalsBench(): Promise<Figure[]> {
  const house = await openBenchHouse({ FASTIGIUM_WEB_FOLDER: new URL('../apps/web/dist', import.meta.url).pathname });
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  });
  try {
    const folder = join(house.folder, 'removals');
    writeLargeSite(folder, PAGES);
    const site = await house.bringIn('Removals', folder);
    const group = await branchOf(house, site);
    await house.quiet();
    const { db } = house.deps;
    const importId = (await readSiteState(db, site)).currentImport ?? '';
    const [removing, back, updating]: [number[], number[], number[]] = [[], [], []];
    let size = 0;
    for (let run = 0; run <= RUNS; run += 1) {
      const removeMs = await timed(async () => {
        await change(house, site, {
          kind: 'remove',
          thing: { kind: 'node', node: group, alone: false },
          standIn: { kind: 'home' },
          links: 'kept',
          why: '',
          newHome: null,
        });
      });
      // Compiling follows by itself; what is measured is the act.
      await house.quiet();
      const { version } = await readSiteState(db, site);
      size = (
        await db.one<{ n: number }>(
          `select jsonb_array_length(body->'thing'->'nodes') as n from decision where site_id = $1 and seq = $2`,
          [site, version],
        )
      ).n;
      const putBackMs = await timed(async () => {
        await change(house, site, { kind: 'put-back', things: [{ of: version }], where: 'in-place', taken: 'stop' });
      });
      await house.quiet();
      const updateMs = await timed(async () => {
        await db.transaction((tx) =>
          tx.run(
            'update source_file set uses = uses where import_id = $1 and path in (select path from source_file where import_id = $1 and page_id is not null order by path limit $2)',
            [importId, size],
          ),
        );
      });
      if (run === 0) continue;
      removing.push(removeMs);
      back.push(putBackMs);
      updating.push(updateMs);
    }
    await manyRemovals(house, site, importId);
    const listMs = await timed(async () => {
      await readRemovalList(house.deps, site);
    });
    await house.quiet();
    const page = await signedIn(browser, house.url);
    const list = await scrolled(page, `${house.url}/sites/${site}/pages?show=removed`, 'option');
    const [removeMs, backMs, updateMs] = [median(removing), median(back), median(updating)];
    return [
      {
        name: `removing ${size.toLocaleString('en')} of ${PAGES.toLocaleString('en')} pages : an UPDATE of as many rows`,
        value: removeMs / updateMs,
        unit: 'ratio',
        most: 5,
        from: `${removeMs.toFixed(0)} ms : ${updateMs.toFixed(0)} ms`,
      },
      {
        name: `putting them back : an UPDATE of as many rows`,
        value: backMs / updateMs,
        unit: 'ratio',
        most: 5,
        from: `${backMs.toFixed(0)} ms : ${updateMs.toFixed(0)} ms`,
      },
      {
        name: `longest task while ${REMOVALS.toLocaleString('en')} removals are scrolled`,
        value: list.longestMs,
        unit: 'ms',
        most: LONG_MS,
        from: `${list.tasks} over ${LONG_MS} ms; ${list.rows} rows passed; the list in ${listMs.toFixed(0)} ms`,
      },
    ];
  } finally {
    await browser.close();
    await house.stop();
  }
}

async function change(
  house: BenchHouse,
  site: string,
  decision: Parameters<typeof decide>[3]['decision'],
): Promise<string | null> {
  const { version } = await readSiteState(house.deps.db, site);
  return (await decide(house.deps, site, house.owner, { version, decision })).made;
}

/** The sections that hold so many pages, put under one group. */
async function branchOf(house: BenchHouse, site: string): Promise<string> {
  const { db } = house.deps;
  const { currentImport, version } = await readSiteState(db, site);
  const group = await change(house, site, { kind: 'add-group', title: 'Part one', parent: null, after: null });
  const sections = await db.many<{ id: string }>(
    `select page_id as id from source_file where import_id = $1 and path ~ '^section-[0-9]+/index.html$' order by length(path), path limit $2`,
    [currentImport, BRANCH / 50],
  );
  const bodies = sections.map(({ id }) => ({
    kind: 'place',
    node: id,
    place: { parent: group, after: null },
    addresses: {},
  }));
  await db.run(
    `insert into decision (site_id, seq, body, message, by) select $1, $2 + n, body, '{"code":"decision.as-written","parameters":{"text":"placed"}}', $4 from unnest($3::jsonb[]) with ordinality as t(body, n)`,
    [site, version + 1, bodies.map((body) => JSON.stringify(body)), house.owner.id],
  );
  await db.run('update site set version = $2 where id = $1', [site, version + 1 + bodies.length]);
  return group ?? '';
}

/** One page each, as if people had removed them one by one. */
async function manyRemovals(house: BenchHouse, site: string, importId: string): Promise<void> {
  const { db } = house.deps;
  const { version } = await readSiteState(db, site);
  const pages = await db.many<{ id: string }>(
    'select page_id as id from source_file where import_id = $1 and page_id is not null and path <> $3 order by path desc limit $2',
    [importId, REMOVALS, 'index.html'],
  );
  const atMs = house.deps.world.clock.nowMs();
  const bodies = pages.map(({ id }, index) =>
    JSON.stringify({
      kind: 'removed',
      thing: { kind: 'nodes', nodes: [id] },
      atMs: atMs - index * 1000,
      why: 'Out of date',
      standIn: { kind: 'home' },
      links: 'kept',
    }),
  );
  await db.run(
    `insert into decision (site_id, seq, body, message, by) select $1, $2 + n, body, '{"code":"decision.as-written","parameters":{"text":"removed"}}', $4 from unnest($3::jsonb[]) with ordinality as t(body, n)`,
    [site, version, bodies, house.owner.id],
  );
  await db.run('update site set version = $2 where id = $1', [site, version + bodies.length]);
}
