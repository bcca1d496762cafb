/** Files of exports that a newer one took the place of: kept while a release made from them is, and some time after. */
import type { Deps } from '../../deps.ts';
import { clearRows } from '../imports/clearImport.ts';

const KEPT_DAYS = 90;
const DAY_MS = 24 * 60 * 60 * 1000;

/**
 * That the export was there stays in the history. What was removed from it can still be put back: its source is with the
 * decision that took the newer one. Contents go with what nothing refers to any more, and not with the export.
 *
 * @returns how many exports
 */
export async function clearSuperseded(deps: Deps, nowMs: number): Promise<number> {
  const superseded = await deps.db.many<{ id: string }>(
    `select i.id from import i join site s on s.id = i.site_id
      where i.state = 'applied' and i.cleared_at is null and i.id is distinct from s.current_import
        and exists (select 1 from import n where n.id = s.current_import and n.applied_at < $1)
        and not exists (select 1 from release r where r.import_id = i.id and r.state in ('sending', 'live', 'past'))
        and not exists (select 1 from set_time t where t.import_id = i.id)`,
    [new Date(nowMs - KEPT_DAYS * DAY_MS)],
  );
  for (const { id } of superseded) {
    await deps.db.transaction(async (tx) => {
      await clearRows(tx, id);
      await tx.run('update import set cleared_at = now() where id = $1', [id]);
    });
  }
  return superseded.length;
}
