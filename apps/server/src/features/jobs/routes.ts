/** Jobs, and the stream of a site's events. */
import { jobsApi, type SiteEvent } from '@fastigium/contracts/api/jobs';
import { DomainError } from '@fastigium/contracts/errors';
import type { Response } from 'express';
import type { News } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { ANSWERED, type Routes } from '../../http/route.ts';
import { cancelJob } from '../../jobs/queue.ts';
import { JOB_COLUMNS, describeJob, type JobRow } from './jobRow.ts';

// Proxies close what stays silent for a minute.
const PING_EVERY_MS = 25_000;

export function addJobsRoutes(routes: Routes, deps: Deps): void {
  async function jobOf(person: string, id: string) {
    const row = await deps.db.maybeOne<JobRow>(
      `select ${JOB_COLUMNS} from job where id = $1 and sees_site($2, site_id)`,
      [id, person],
    );
    if (!row) throw new DomainError('not-found', { what: 'job' });
    return describeJob(row);
  }

  routes.on(jobsApi.get, ({ params, person }) => jobOf(person.id, params.job));
  routes.on(jobsApi.cancel, async ({ params, person }) => {
    await jobOf(person.id, params.job);
    await cancelJob(deps.db, params.job, person.id);
    return { done: true as const };
  });

  routes.on(jobsApi.events, async ({ params, person, res, stillMay }) => {
    openStream(res);
    const send = (event: SiteEvent) => res.write(`data: ${JSON.stringify(jobsApi.events.answer.parse(event))}\n\n`);
    const close = () => res.end();
    const tell = async (news: News) => {
      if (news.kind === 'access') {
        // Whoever may not any more hears nothing any more.
        if (news.person === person.id && !(await stillMay())) close();
      } else if (news.site !== params.site) return;
      else if (news.kind === 'job') send({ kind: 'job', job: await jobOf(person.id, news.job) });
      else if (news.kind === 'draft') send({ kind: 'draft', version: news.version, by: news.by });
      else send({ kind: news.kind });
    };
    const unsubscribe = deps.feed.subscribe(
      (news) => void tell(news).catch((error: unknown) => deps.log.warn({ err: error }, 'event not sent')),
    );
    // Access can also end by its time alone, or while news of it was not heard.
    const ping = async () => {
      if (await stillMay()) res.write(': still here\n\n');
      else close();
    };
    deps.stopping.addEventListener('abort', close);
    const pinging = setInterval(() => void ping().catch(close), PING_EVERY_MS);
    res.on('close', () => {
      unsubscribe();
      clearInterval(pinging);
      deps.stopping.removeEventListener('abort', close);
    });
    return ANSWERED;
  });
}

/** WHATWG HTML, section 9.2: server-sent events. */
function openStream(res: Response): void {
  res.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' });
  res.write('retry: 2000\n\n');
}
