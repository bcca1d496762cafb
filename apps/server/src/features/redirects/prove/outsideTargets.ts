/** Whether the targets of redirects on other hosts answer. */
import { reason } from '@fastigium/contracts/messages/reason';
import type { Part } from '@fastigium/core/messages';
import type { Rule } from '@fastigium/core/redirects';
import type { Deps } from '../../../deps.ts';
import type { JobRun } from '../../../jobs/queue.ts';
import { progressStep } from '@fastigium/contracts/messages/progress';

const LIMITS = { bytes: 4 * 1024 * 1024, withinMs: 10_000 } as const;
const AT_ONCE = 4;

export async function askOutsideTargets(deps: Deps, rules: readonly Rule[], job: JobRun): Promise<void> {
  const urls = [
    ...new Set(
      rules.flatMap(({ to, isPattern }) => (!isPattern && to !== undefined && /^https?:/.test(to) ? [to] : [])),
    ),
  ];
  const found: { url: string; status: number | null; problem: Part | null }[] = [];
  const waiting = urls.values();
  const work = async () => {
    for (const url of waiting) {
      const answer = await deps.world.fetch(new URL(url), LIMITS, job.signal);
      found.push(
        answer.ok
          ? {
              url,
              status: answer.status,
              problem: answer.status >= 400 ? reason('answers-status', { status: answer.status }) : null,
            }
          : { url, status: null, problem: reason('does-not-answer', { detail: answer.detail }) },
      );
      job.report({
        step: progressStep('asking-other-hosts'),
        done: found.length,
        total: urls.length,
        unit: 'addresses',
      });
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  await deps.db.transaction(async (tx) => {
    await tx.run('delete from outside_target where site_id = $1', [job.site]);
    await tx.run(
      'insert into outside_target (site_id, url, asked_at, status, problem) select $1, r.url, $2, r.status, r.problem from unnest($3::text[], $4::int[], $5::jsonb[]) as r(url, status, problem)',
      [
        job.site,
        new Date(deps.world.clock.nowMs()),
        found.map(({ url }) => url),
        found.map(({ status }) => status),
        found.map(({ problem }) => (problem === null ? null : JSON.stringify(problem))),
      ],
    );
  });
}
