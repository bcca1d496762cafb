/**
 * Whether the live host still gives what the release says: the host is asked which release it has, and a sample of
 * pages and files, another one each time, is held against the hashes that were published.
 */
import type { Drift } from '@fastigium/contracts/api/watch';
import { finding, planInspection, drawSample, type Finding } from '@fastigium/core/inspection';
import { indexRules } from '@fastigium/core/redirects';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { requireLiveOrigin } from '../address/liveOrigin.ts';
import { foldDraftAt, readHistory } from '../draft/history.ts';
import { askAll } from './ask.ts';
import { createEntrance } from '../shared/entrance.ts';
import { readAllEntries } from '../shared/manifests.ts';
import { readServing } from '../shared/serving.ts';

export const DRIFT_EVERY_MS = 3_600_000;
const PAGES_A_TIME = 20;
const FILES_A_TIME = 10;
const MOST_FINDINGS = 100;
/** What may change by itself; types and caching are as the host was set up, and the inspection tells of them. */
const DRIFTS: ReadonlySet<Finding['aspect']> = new Set(['home', 'pages', 'files', 'machines', 'visitors']);

interface Live extends Record<string, unknown> {
  readonly id: string;
  readonly shards: string[];
  readonly rulesHash: string | null;
  readonly version: number;
  readonly hostName: string;
}

export async function checkDrift(deps: Deps, site: string): Promise<void> {
  const live = await readLive(deps, site);
  if (!live) return;
  const atMs = deps.world.clock.nowMs();
  const { asked, findings } = await findDrift(deps, site, live, `${live.id} ${Math.floor(atMs / DRIFT_EVERY_MS)}`);
  // Whoever published meanwhile changed what is right.
  if ((await readLive(deps, site))?.id !== live.id) return;
  await deps.db.transaction(async (tx) => {
    await tx.run(
      `insert into drift as d (site_id, release_id, checked_at, since, asked, findings) values ($1, $2, $3, $4, $5, $6)
       on conflict (site_id) do update set release_id = $2, checked_at = $3, asked = $5, findings = $6, since = case when $4::timestamptz is null then null when d.release_id = $2 then coalesce(d.since, $4) else $4 end`,
      [
        site,
        live.id,
        new Date(atMs),
        findings.length > 0 ? new Date(atMs) : null,
        asked,
        JSON.stringify(findings.slice(0, MOST_FINDINGS)),
      ],
    );
    await announce(tx, { kind: 'watch', site });
  });
}

async function readLive({ db }: Deps, site: string): Promise<Live | undefined> {
  return db.maybeOne<Live>(
    `select r.id, r.shards, r.rules_hash as "rulesHash", r.version, s.host_name as "hostName" from site s join release r on r.id = s.live_release
      where s.id = $1 and not exists (select 1 from release o where o.site_id = s.id and o.state = 'sending')`,
    [site],
  );
}

async function findDrift(
  deps: Deps,
  site: string,
  live: Live,
  seed: string,
): Promise<{ asked: number; findings: Finding[] }> {
  const host = await deps.hosts.of(deps.db, site);
  const origin = await requireLiveOrigin(deps, deps.db, site);
  const { rules, access } = await readServing(deps.db, live.rulesHash);
  const { basePath } = foldDraftAt(await readHistory(deps.db, site), live.version);
  const plan = planInspection(await readAllEntries(deps.db, live.shards), indexRules(rules), rules, basePath, seed);
  const questionsAbout = (...aspects: string[]) => plan.questions.filter(({ aspect }) => aspects.includes(aspect));
  const { drift: before } = (await deps.db.maybeOne<{ drift: Finding[] }>(
    'select findings as drift from drift where site_id = $1 and release_id = $2',
    [site, live.id],
  )) ?? { drift: [] };
  const known = new Set(before.map(({ address }) => address));
  // What was found before is asked again, so that it is known when it is right again.
  const questions = [
    ...new Set([
      ...questionsAbout('home', 'machines'),
      ...drawSample(questionsAbout('pages'), PAGES_A_TIME, seed),
      ...drawSample(questionsAbout('files'), FILES_A_TIME, seed),
      ...plan.questions.filter(({ address }) => known.has(address)),
    ]),
  ];
  const seen = await askAll(
    deps.world.readLive,
    { questions, unasked: 0, nowhere: undefined },
    origin,
    { notFoundHash: undefined, hstsSeconds: null, entrance: await createEntrance(deps, site, access) },
    { signal: new AbortController().signal, report: () => {} },
  );
  // A site that does not answer at all is what the probes tell.
  if (seen.pages.length > 0 && seen.pages.every(({ status }) => status === undefined))
    return { asked: 0, findings: [] };
  const findings = seen.findings.filter(
    ({ aspect, weight, message }) => weight === 'wrong' && DRIFTS.has(aspect) && message.code !== 'finding.no-answer',
  );
  const current = await host.current(live.hostName);
  const other: Finding[] =
    current === live.id
      ? []
      : [
          {
            aspect: 'home',
            address: '/',
            message: current === null ? finding('no-release') : finding('other-release'),
            weight: 'wrong',
          },
        ];
  return { asked: questions.length, findings: [...other, ...findings] };
}

export async function readDrift(db: Queries, site: string): Promise<Drift | null> {
  const row = await db.maybeOne<{ checkedAt: Date; since: Date | null; asked: number; findings: Finding[] }>(
    `select d.checked_at as "checkedAt", d.since, d.asked, d.findings from drift d join site s on s.id = d.site_id and s.live_release = d.release_id where d.site_id = $1`,
    [site],
  );
  return row
    ? {
        checkedAt: row.checkedAt.toISOString(),
        since: row.since?.toISOString() ?? null,
        asked: row.asked,
        findings: row.findings.map(({ address, message }) => ({ address, message })),
      }
    : null;
}
