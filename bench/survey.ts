/** Import and all checks of a large site against a small one, page by page; and what one edit costs against the whole. */
import { join } from 'node:path';
import { writeLargeSite } from '../demo/large/build.ts';
import { decide } from '../apps/server/src/features/draft/decide.ts';
import { checkDraft } from '../apps/server/src/features/snags/checkDraft.ts';
import type { Figure } from './figures.ts';
import { median, openBenchHouse, timed, type BenchHouse } from './house.ts';

const [SMALL, LARGE] = [500, 5_000] as const;
const RUNS = 3;

interface Surveyed {
  readonly ms: number;
  /** Most memory that the process with its threads held. */
  readonly peakMB: number;
  readonly edit: { readonly work: number; readonly ms: number; readonly fullMs: number };
}

export async function surveyBench(): Promise<Figure[]> {
  const house = await openBenchHouse();
  try {
    // Once before it counts, so that neither pays for the compiler or a cold disk.
    await survey(house, SMALL, 1);
    const small = await survey(house, SMALL, RUNS);
    const large = await survey(house, LARGE, RUNS);
    const perPage = ({ ms }: Surveyed, pages: number) => `${(ms / pages).toFixed(2)} ms`;
    return [
      {
        name: `import and checks a page, ${LARGE} pages : ${SMALL} pages`,
        value: large.ms / LARGE / (small.ms / SMALL),
        unit: 'ratio',
        most: 1.5,
        from: `${perPage(large, LARGE)} : ${perPage(small, SMALL)}; ${(large.ms / 1000).toFixed(1)} s in all`,
      },
      {
        name: `most memory of the process, ${LARGE} pages`,
        value: large.peakMB,
        unit: 'MB',
        most: 1500,
        from: `${small.peakMB.toFixed(0)} MB for ${SMALL}; threads included, PostgreSQL not`,
      },
      {
        name: 'pages read and asked after one edit : all pages',
        value: large.edit.work / LARGE,
        unit: 'ratio',
        most: 0.02,
        from: `${large.edit.work} of ${LARGE}; ${large.edit.ms.toFixed(0)} ms : ${large.edit.fullMs.toFixed(0)} ms from nothing`,
      },
    ];
  } finally {
    await house.stop();
  }
}

async function survey(house: BenchHouse, pages: number, runs: number): Promise<Surveyed> {
  const { deps, owner } = house;
  const folder = join(house.folder, `survey-${pages}`);
  writeLargeSite(folder, pages + 1);
  const times: number[] = [];
  let site = '';
  const memory = watchMemory();
  for (let run = 0; run < runs; run += 1) {
    await house.forgetSites();
    times.push(
      await timed(async () => {
        site = await house.bringIn(`Survey ${pages}`, folder);
        await checkDraft(deps, site);
      }),
    );
  }
  const peakMB = memory.stop();
  await deps.db.run('delete from check_state where site_id = $1', [site]);
  const fullMs = await timed(() => checkDraft(deps, site));
  const page = await deps.db.one<{ id: string }>(
    `select id from page where site_id = $1 and source_path = 'section-3/page-151/index.html'`,
    [site],
  );
  const { version } = await deps.db.one<{ version: number }>('select version from site where id = $1', [site]);
  await decide(deps, site, owner, {
    version,
    decision: { kind: 'title', page: page.id, title: 'Another title for one page' },
  });
  let work = 0;
  const ms = await timed(async () => {
    const { pagesRead, pagesAsked } = await checkDraft(deps, site);
    work = pagesRead + pagesAsked;
  });
  // Where the job that follows every decision came first, it is asked what that one did.
  if (work === 0)
    work = (await deps.db.one<{ n: number }>('select files_checked as n from check_state where site_id = $1', [site]))
      .n;
  return { ms: median(times), peakMB, edit: { work, ms, fullMs } };
}

function watchMemory() {
  let most = 0;
  const timer = setInterval(() => {
    most = Math.max(most, process.memoryUsage.rss());
  }, 20);
  return {
    stop() {
      clearInterval(timer);
      return most / 1024 / 1024;
    },
  };
}
