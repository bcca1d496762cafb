/** What a report tells of a release beside what was found, fixed at the time, since draft and snags go on. */
import { createMessageSchema, part } from '@fastigium/contracts/messages/schema';
import type { Part } from '@fastigium/core/messages';
import type { LiveWayMessage } from '@fastigium/core/redirects';
import { change } from '@fastigium/core/report';
import { CHANGE_GROUPS } from '@fastigium/contracts/api/releases';
import { z } from 'zod';
import type { Deps } from '../../deps.ts';
import { readChangesBetween } from '../changes/changes.ts';
import type { ReleaseContents } from '../shared/releaseList.ts';

export const reportFactsSchema = z.object({
  /** The release it came after; null for the first. */
  since: z.number().int().nullable(),
  changes: z.array(z.object({ group: z.enum(CHANGE_GROUPS), subject: part, message: createMessageSchema(change) })),
  changesInAll: z.number().int(),
  /** How many old addresses end where, from most to fewest. */
  oldAddresses: z.array(z.object({ end: z.string(), count: z.number().int() })),
  /** Snags that had to be fixed and were taken on somebody's name. */
  taken: z.array(z.object({ subject: z.string(), detail: part, reason: z.string(), by: z.string() })),
  /** Those worth a look that were open. */
  open: z.number().int(),
});
export type ReportFacts = z.infer<typeof reportFactsSchema>;

const MOST_CHANGES = 500;

export async function reportFacts(
  deps: Deps,
  release: string,
  old: readonly { readonly end: string; readonly problem: LiveWayMessage | undefined }[],
): Promise<ReportFacts> {
  const { db } = deps;
  const found = await db.one<ReleaseContents & { site: string; number: number } & Record<string, unknown>>(
    'select site_id as site, number, shards, rules_hash as "rulesHash" from release where id = $1',
    [release],
  );
  const before = await db.maybeOne<ReleaseContents & { number: number } & Record<string, unknown>>(
    `select number, shards, rules_hash as "rulesHash" from release where site_id = $1 and live_at is not null and shards is not null and number < $2 order by number desc limit 1`,
    [found.site, found.number],
  );
  const { changes } = await readChangesBetween(deps, before, found);
  const taken = await db.many<{ subject: string; detail: Part; reason: string; by: string }>(
    `select '/' || s.path as subject, coalesce(s.message, to_jsonb(s.detail)) as detail, d.reason, p.name as by from snag s join snag_dismissal d using (site_id, key) join person p on p.id = d.by
      where s.site_id = $1 and s.severity = 'must' order by s.path, s.key limit 200`,
    [found.site],
  );
  const { open } = await db.one<{ open: number }>(
    `select count(*)::int as open from snag s where s.site_id = $1 and s.severity = 'should' and not exists (select 1 from snag_dismissal d where d.site_id = s.site_id and d.key = s.key)`,
    [found.site],
  );
  const ends = new Map<string, number>();
  for (const { end, problem } of old) {
    const words = problem === undefined ? end : 'otherwise';
    ends.set(words, (ends.get(words) ?? 0) + 1);
  }
  return {
    since: before?.number ?? null,
    changes: changes.slice(0, MOST_CHANGES).map(({ group, subject, message }) => ({ group, subject, message })),
    changesInAll: changes.length,
    oldAddresses: [...ends].map(([end, count]) => ({ end, count })).sort((a, b) => b.count - a.count),
    taken,
    open,
  };
}
