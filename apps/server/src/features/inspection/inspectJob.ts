/**
 * After each publish the live host is asked for everything the release promises: what was sent is only what visitors
 * get once it is seen there. What is found is kept with the release, and the facts its report tells with it.
 */
import { answer as came } from '@fastigium/contracts/messages/answer';
import { told } from '@fastigium/contracts/messages/told';
import { setTimeout as wait } from 'node:timers/promises';
import { DomainError } from '@fastigium/contracts/errors';
import {
  finding,
  judgeCertificate,
  planInspection,
  countResults,
  judgeResults,
  type Aspect,
  type Finding,
} from '@fastigium/core/inspection';
import { indexRules } from '@fastigium/core/redirects';
import { z } from 'zod';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { enqueue, type JobHandler } from '../../jobs/queue.ts';
import { requireLiveOrigin } from '../address/liveOrigin.ts';
import { readSiteAddress, type SiteAddress } from '../shared/siteAddress.ts';
import { readSiteHost } from '../address/siteHost.ts';
import { foldDraftAt, readHistory } from '../draft/history.ts';
import { readAllEntries } from '../shared/manifests.ts';
import { proveLive } from '../redirects/prove/proveJob.ts';
import { readServing } from '../shared/serving.ts';
import { tellOthers } from '../telling/outbox.ts';
import { askAll } from './ask.ts';
import { createEntrance } from '../shared/entrance.ts';
import { reportFacts } from './facts.ts';
import { keepHeads } from './heads.ts';
import { keepInspection } from './kept.ts';
import { gatherWaysHome, readMenusWithHome } from './waysHome.ts';

const body = z.object({ release: z.uuid(), by: z.uuid() });
/** A host may need a moment, and so may whoever publishes again at once. */
const SETTLE_MS = 1000;

export async function inspectSoon(
  tx: Queries,
  { release, site, by }: { readonly release: string; readonly site: string; readonly by: string },
): Promise<string> {
  // An older release is not live any more, so there is nothing to be seen of it.
  await tx.run(`delete from job where site_id = $1 and kind = 'inspect' and state = 'waiting'`, [site]);
  return enqueue(tx, { kind: 'inspect', site, body: { release, by }, by });
}

export async function inspectNow(deps: Deps, site: string, by: string): Promise<string> {
  return deps.db.transaction(async (tx) => {
    const live = await tx.maybeOne<{ id: string | null }>(
      'select live_release as id from site where id = $1 for no key update',
      [site],
    );
    if (!live?.id) throw new DomainError('nothing-live');
    const running = await tx.maybeOne<{ id: string }>(
      `select id from job where site_id = $1 and kind = 'inspect' and state in ('waiting', 'running') and body ->> 'release' = $2`,
      [site, live.id],
    );
    return running?.id ?? inspectSoon(tx, { release: live.id, site, by });
  });
}

export function inspectJob(deps: Deps): JobHandler {
  return {
    async run(job) {
      const { release, by } = body.parse(job.body);
      await wait(SETTLE_MS, undefined, { signal: job.signal });
      const row = await deps.db.one<{
        shards: string[];
        rulesHash: string | null;
        version: number;
        importId: string;
        isLive: boolean;
      }>(
        `select r.shards, r.rules_hash as "rulesHash", r.version, r.import_id as "importId", s.live_release = r.id as "isLive" from release r join site s on s.id = r.site_id where r.id = $1`,
        [release],
      );
      if (!row.isLive) return;
      const { rules, access } = await readServing(deps.db, row.rulesHash);
      const entrance = await createEntrance(deps, job.site, access);
      const [files, index] = [await readAllEntries(deps.db, row.shards), indexRules(rules)];
      const draft = foldDraftAt(await readHistory(deps.db, job.site), row.version);
      const { basePath } = draft;
      const origin = await requireLiveOrigin(deps, deps.db, job.site);
      const address = await readSiteAddress(deps.db, job.site);
      const plan = planInspection(files, index, rules, basePath, release);
      const waysHome = gatherWaysHome(
        deps.world.readLive,
        await readMenusWithHome(deps.db, row.importId, draft),
        basePath,
      );
      const seen = await askAll(
        deps.world.readLive,
        plan,
        origin,
        {
          notFoundHash: files.get(`${basePath === '' ? '' : `${basePath.slice(1)}/`}404.html`)?.hash,
          hstsSeconds: address?.hstsSeconds ?? null,
          entrance,
          readPage: waysHome.readPage,
        },
        job,
      );
      const home = await waysHome.ask(
        plan.questions.find(({ aspect }) => aspect === 'home'),
        entrance,
        job,
      );
      const old = await proveLive(deps, { release, origin, by, rules, access, index, files }, job);
      const certificate = address ? await inspectCertificate(deps, job.site, address) : undefined;
      const findings: Finding[] = [
        ...seen.findings,
        ...home.findings,
        ...(certificate ?? []),
        ...old.flatMap(({ from, problem }): Finding[] =>
          problem === undefined
            ? []
            : [
                {
                  aspect: 'old addresses',
                  address: from,
                  message: finding('redirect-otherwise', { difference: problem }),
                  weight: 'wrong',
                },
              ],
        ),
      ];
      const asked = new Map<Aspect, number>([
        ...seen.asked,
        ['home', (seen.asked.get('home') ?? 0) + home.asked],
        ['old addresses', old.length],
        ['certificate', certificate === undefined ? 0 : 1],
      ]);
      const found = countResults(asked, findings);
      const facts = await reportFacts(
        deps,
        release,
        old.map(({ way, problem }) => ({ end: way.end, problem })),
      );
      await deps.db.transaction(async (tx) => {
        await keepHeads(tx, {
          site: job.site,
          release,
          entries: files,
          pages: seen.pages,
          atMs: deps.world.clock.nowMs(),
        });
        await keepInspection(tx, {
          site: job.site,
          release,
          origin: origin.href,
          by,
          atMs: deps.world.clock.nowMs(),
          results: found,
          verdict: judgeResults(found),
          findings,
          unasked: plan.unasked,
          facts,
        });
        const wrong = found.reduce((sum, each) => sum + each.wrong, 0);
        if (wrong > 0)
          await tellOthers(
            tx,
            deps,
            job.site,
            'found-otherwise',
            told('found-otherwise', {
              count: wrong,
              findings: findings
                .filter(({ weight }) => weight === 'wrong')
                .slice(0, 3)
                .map(({ address: at, message }) => told('finding', { address: at, finding: message })),
            }),
          );
        await announce(tx, { kind: 'release', site: job.site });
      });
    },
  };
}

/** Only a site that is meant to be reached by https alone promises a certificate. */
async function inspectCertificate(
  deps: Deps,
  site: string,
  { main, forceHttps }: SiteAddress,
): Promise<Finding[] | undefined> {
  if (!forceHttps) return undefined;
  const { targets } = await readSiteHost(deps, deps.db, site);
  const [target] = targets.ipv4;
  const answer =
    target === undefined
      ? ({ ok: false, reason: came('host-without-address') } as const)
      : await deps.world.web.handshake(target, main);
  return judgeCertificate(main, answer.ok ? answer.certificate : { problem: answer.reason }, deps.world.clock.nowMs());
}
