import { rehearsalApi } from '@fastigium/contracts/api/rehearsal';
import { releasesApi } from '@fastigium/contracts/api/releases';
import { pipeline } from 'node:stream/promises';
import { setTimeApi } from '@fastigium/contracts/api/setTime';
import { DomainError } from '@fastigium/contracts/errors';
import type { Deps } from '../../deps.ts';
import { ANSWERED, type Routes } from '../../http/route.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import { readCausesSinceLive } from './causes.ts';
import { readChangeEvidence, readChangesBetween, readChangesSinceLive, readLiveRelease } from '../changes/changes.ts';
import { keepReleases, countKept, pin } from './keeping.ts';
import { readReleases, readTwoReleases } from '../shared/releaseList.ts';
import { readRehearsal, rehearse } from './rehearse.ts';
import { publish, rollBack } from './publish.ts';
import { leaveSetTime, setTimeFor, setTimeOf } from './setTime.ts';
import { reckonWhatIsSent } from './sending.ts';
import { takeAlong } from './takeAlong.ts';

export function addReleasesRoutes(routes: Routes, deps: Deps): void {
  routes.on(releasesApi.changes, async ({ params }) => {
    const { compiled, live, difference, changes } = await readChangesSinceLive(deps, params.site);
    return {
      version: compiled.version,
      sinceRelease: live?.number ?? null,
      changes: [...changes],
      whole: { files: compiled.files, bytes: compiled.bytes },
      ...(await reckonWhatIsSent(deps, params.site, difference).then(
        (sending) => ({ sending, hostProblem: null }),
        (error: unknown) => {
          // The changes are worth seeing while the host is away.
          if (!(error instanceof DomainError)) throw error;
          return { sending: null, hostProblem: error.told };
        },
      )),
    };
  });
  routes.on(releasesApi.takeAlong, async ({ params, res }) => {
    const archive = await takeAlong(deps, params.site, params.number);
    res.type('application/zip').attachment(`release-${params.number}.zip`);
    await pipeline(archive, res);
    return ANSWERED;
  });
  routes.on(releasesApi.compare, async ({ params, query }) => {
    const [before, after] = await readTwoReleases(deps.db, params.site, query);
    return { changes: [...(await readChangesBetween(deps, before, after)).changes] };
  });
  routes.on(releasesApi.causes, ({ params }) => readCausesSinceLive(deps, params.site));
  routes.on(releasesApi.evidence, async ({ params, query }) => {
    if (query.before !== undefined && query.after !== undefined) {
      const [before, after] = await readTwoReleases(deps.db, params.site, { before: query.before, after: query.after });
      return readChangeEvidence(deps, query.key, { before: before.shards, after: after.shards });
    }
    const { shards } = await compileDraft(deps, params.site);
    return readChangeEvidence(deps, query.key, {
      before: (await readLiveRelease(deps.db, params.site))?.shards,
      after: shards,
    });
  });
  routes.on(releasesApi.list, ({ params }) => readReleases(deps.db, params.site));
  routes.on(releasesApi.publish, ({ params, body, person }) => publish(deps, params.site, person, body));
  routes.on(setTimeApi.get, async ({ params }) => ({ set: await setTimeOf(deps.db, params.site) }));
  routes.on(setTimeApi.set, async ({ params, body, person }) => ({
    set: await setTimeFor(deps, params.site, person, body),
  }));
  routes.on(setTimeApi.leave, async ({ params }) => {
    await leaveSetTime(deps, params.site);
    return { done: true as const };
  });
  routes.on(releasesApi.keeping, async ({ params }) => ({ count: await countKept(deps.db, params.site) }));
  routes.on(releasesApi.keep, async ({ params, body, person }) => {
    await keepReleases(deps, params.site, person.id, body.count);
    return { done: true as const };
  });
  routes.on(releasesApi.pin, async ({ params, body, person }) => {
    await pin(deps, params.site, person.id, { number: params.number, ...body });
    return { done: true as const };
  });
  routes.on(rehearsalApi.get, async ({ params }) => ({
    rehearsal: await readRehearsal(deps.db, params.site),
    isPossible: (await deps.hosts.of(deps.db, params.site)).naming !== undefined,
  }));
  routes.on(rehearsalApi.begin, async ({ params, person }) => ({ job: await rehearse(deps, params.site, person.id) }));
  routes.on(releasesApi.rollBack, ({ params, body, person }) =>
    rollBack(deps, params.site, person.id, params.number, body.replaces),
  );
}
