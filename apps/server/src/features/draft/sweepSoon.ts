import type { Queries } from '../../db/database.ts';

/** What is removed, held or kept changed: when to look is reckoned anew. */
export async function sweepSoon(queries: Queries, site: string, nowMs: number): Promise<void> {
  await queries.run('update site set next_sweep_at = $2 where id = $1', [site, new Date(nowMs)]);
}
