/**
 * A rehearsal: the draft goes to a temporary address of its own at the same host, whole, with its redirects and with
 * who may visit, and is asked for from outside like a release. The live site is not touched, and what was sent is at
 * the host already when the release goes out.
 */
import { randomUUID } from 'node:crypto';
import type { Rehearsal } from '@fastigium/contracts/api/rehearsal';
import { DomainError } from '@fastigium/contracts/errors';
import { planInspection, countResults, judgeResults, type Finding } from '@fastigium/core/inspection';
import { indexRules } from '@fastigium/core/redirects';
import { deriveDelta, emptyManifest, computeRoot } from '@fastigium/core/release';
import { z } from 'zod';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { enqueue, type JobHandler } from '../../jobs/queue.ts';
import { hashSha256 } from '../../threads/tasks.ts';
import { keepContents } from '../shared/contents.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import { readSiteState } from '../draft/history.ts';
import { askAll } from '../inspection/ask.ts';
import { createEntrance } from '../shared/entrance.ts';
import { readAllEntries } from '../shared/manifests.ts';
import { deriveInitials } from '../shared/initials.ts';
import { readDifference } from '../changes/changes.ts';
import { sendContents } from './sendContents.ts';
import { createServingContent } from '../shared/serving.ts';

const body = z.object({ by: z.uuid() });
const MOST_LABEL = 63; // RFC 1035 section 2.3.4
const ENDING = '-rehearsal';

/** A label of its own beside the site's. */
export const nameRehearsal = (hostName: string): string => hostName.slice(0, MOST_LABEL - ENDING.length) + ENDING;

export async function rehearse(deps: Deps, site: string, by: string): Promise<string> {
  if (!(await deps.hosts.of(deps.db, site)).naming) throw new DomainError('host-offers-no-names');
  return deps.db.transaction(async (tx) => {
    const { currentImport } = await readSiteState(tx, site, 'locked');
    if (currentImport === null) throw new DomainError('nothing-imported');
    const running = await tx.maybeOne<{ id: string }>(
      `select id from job where site_id = $1 and kind = 'rehearse' and state in ('waiting', 'running')`,
      [site],
    );
    return running?.id ?? enqueue(tx, { kind: 'rehearse', site, body: { by }, by });
  });
}

function refuseUnnamed(): never {
  throw new DomainError('host-offers-no-names');
}

export function rehearseJob(deps: Deps): JobHandler {
  return {
    async run(job) {
      const { by } = body.parse(job.body);
      const compiled = await compileDraft(deps, job.site, { signal: job.signal, report: job.report });
      const { hostName: ownHostName } = await readSiteState(deps.db, job.site);
      const [host, hostName] = [await deps.hosts.of(deps.db, job.site), nameRehearsal(ownHostName)];
      const serving = createServingContent({ rules: compiled.rules.rules, access: compiled.access });
      if (serving) await keepContents(deps.db, [serving], null);
      const rulesHash = serving?.hash ?? null;
      // Told whole: what is live there is some draft of before, and nobody keeps which.
      const delta = deriveDelta(await readDifference(deps.db, emptyManifest, compiled.shards));
      const release = randomUUID();
      await sendContents(deps, { id: release, host, hostName, rulesHash }, delta.put, new Map(), job);
      await host.stage(
        hostName,
        { id: release, base: null, ...delta, rules: rulesHash, root: computeRoot(compiled.shards, hashSha256) },
        job.signal,
      );
      await host.switchTo(hostName, release, await host.current(hostName));
      const origin = new URL(host.urlOf(hostName) ?? refuseUnnamed());
      const files = await readAllEntries(deps.db, compiled.shards);
      const { basePath } = compiled.draft;
      const plan = planInspection(files, indexRules(compiled.rules.rules), compiled.rules.rules, basePath, release);
      const seen = await askAll(
        deps.world.readLive,
        plan,
        origin,
        {
          notFoundHash: files.get(`${basePath === '' ? '' : `${basePath.slice(1)}/`}404.html`)?.hash,
          hstsSeconds: null,
          entrance: await createEntrance(deps, job.site, compiled.access),
        },
        job,
      );
      const found = countResults(seen.asked, seen.findings);
      await deps.db.transaction(async (tx) => {
        await tx.run(
          `insert into rehearsal (site_id, version, origin, at, by, verdict, results, findings) values ($1, $2, $3, $4, $5, $6, $7, $8)
           on conflict (site_id) do update set version = $2, origin = $3, at = $4, by = $5, verdict = $6, results = $7, findings = $8`,
          [
            job.site,
            compiled.version,
            origin.href,
            new Date(deps.world.clock.nowMs()),
            by,
            judgeResults(found),
            JSON.stringify(found),
            JSON.stringify(seen.findings.slice(0, MOST_FINDINGS)),
          ],
        );
        await announce(tx, { kind: 'release', site: job.site });
      });
    },
  };
}

const MOST_FINDINGS = 200;

export async function readRehearsal(db: Queries, site: string): Promise<Rehearsal | null> {
  const row = await db.maybeOne<{
    origin: string;
    version: number;
    now: number;
    at: Date;
    byId: string;
    byName: string;
    verdict: Rehearsal['verdict'];
    results: Rehearsal['results'];
    findings: Finding[];
  }>(
    `select r.origin, r.version, s.version as now, r.at, p.id as "byId", p.name as "byName", r.verdict, r.results, r.findings from rehearsal r join site s on s.id = r.site_id join person p on p.id = r.by where r.site_id = $1`,
    [site],
  );
  if (!row) return null;
  const { now, at, byId, byName, findings, ...rest } = row;
  return {
    ...rest,
    at: at.toISOString(),
    by: { id: byId, name: byName, initials: deriveInitials(byName) },
    findings: findings.map(({ address, message, weight }) => ({ address, message, weight })),
    since: now - row.version,
  };
}
