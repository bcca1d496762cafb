/** Effective heads of a large site after one change for all of it, against reading the pages' records; and what a change of a branch compiles. */
import { join } from 'node:path';
import { writeLargeSite } from '../demo/large/build.ts';
import { compileDraft } from '../apps/server/src/features/draft/compileDraft.ts';
import { decide } from '../apps/server/src/features/draft/decide.ts';
import { deriveHeads, readHeadSources } from '../apps/server/src/features/draft/heads/heads.ts';
import { readHeadRecords } from '../apps/server/src/features/draft/heads/records.ts';
import { foldDraftAt, readHistory, readSiteState } from '../apps/server/src/features/draft/history.ts';
import { readAllPages } from '../apps/server/src/features/draft/pageFiles.ts';
import type { Figure } from './figures.ts';
import { median, openBenchHouse, timed, type BenchHouse } from './house.ts';

const RUNS = 5;
const FILES = 10_000;
const EVERYWHERE = { kind: 'everywhere' } as const;

export async function headsBench(): Promise<Figure[]> {
  const house = await openBenchHouse();
  try {
    const folder = join(house.folder, 'heads');
    writeLargeSite(folder, FILES);
    const site = await house.bringIn('Heads', folder);
    await house.quiet();
    const { db } = house.deps;
    const importId = (await readSiteState(db, site)).currentImport ?? '';
    await set(
      house,
      site,
      ['canonical', 'share', 'breadcrumb', 'article'].map((name) => ({ scope: EVERYWHERE, name, text: 'on' })),
    );
    const sources = await readHeadSources(db, site, importId);
    const [reading, reckoning]: [number[], number[]] = [[], []];
    let pages = 0;
    for (let run = 0; run <= RUNS; run += 1) {
      await set(house, site, [{ scope: EVERYWHERE, name: 'meta:author', text: `Author ${run}` }]);
      const { version } = await readSiteState(db, site);
      const draft = foldDraftAt(await readHistory(db, site), version);
      const files = await readAllPages(db, importId, draft);
      const readMs = await timed(async () => {
        await readHeadRecords(db, site, importId);
      });
      const reckonMs = await timed(() => {
        const heads = deriveHeads(draft, files, sources, 'https://large.example');
        for (const id of files.keys()) heads.of(id);
      });
      pages = files.size;
      if (run === 0) continue;
      reading.push(readMs);
      reckoning.push(reckonMs);
    }
    await compileDraft(house.deps, site);
    const root = await db.one<{ id: string }>(
      `select page_id as id from source_file where import_id = $1 and path = 'section-3/index.html'`,
      [importId],
    );
    const below = await db.one<{ n: number }>(
      `select count(*)::int as n from source_file where import_id = $1 and page_id is not null and path like 'section-3/%'`,
      [importId],
    );
    await set(house, site, [{ scope: { kind: 'branch', page: root.id }, name: 'meta:author', text: 'Of the branch' }]);
    await house.quiet();
    // The way back from what is compiled now to the version before it is the same work, and nobody else does it.
    const { version } = await readSiteState(db, site);
    let compiled = 0;
    await compileDraft(house.deps, site, {
      version: version - 1,
      report: ({ total }) => {
        compiled = total;
      },
    });
    const [readMs, reckonMs] = [median(reading), median(reckoning)];
    return [
      {
        name: `heads of ${pages.toLocaleString('en')} pages : reading their records`,
        value: reckonMs / readMs,
        unit: 'ratio',
        most: 10,
        from: `${reckonMs.toFixed(0)} ms : ${readMs.toFixed(0)} ms`,
      },
      {
        name: 'pages compiled for a branch’s setting : pages in it',
        value: compiled / below.n,
        unit: 'ratio',
        most: 1,
        from: `${compiled} : ${below.n} of ${pages.toLocaleString('en')}`,
      },
    ];
  } finally {
    await house.stop();
  }
}

async function set(
  { deps, owner }: BenchHouse,
  site: string,
  settings: readonly { scope: { kind: 'everywhere' } | { kind: 'branch'; page: string }; name: string; text: string }[],
): Promise<void> {
  const { version } = await readSiteState(deps.db, site);
  await decide(deps, site, owner, {
    version,
    decision: { kind: 'head', settings: settings.map((each) => ({ ...each, own: null })) },
  });
}
