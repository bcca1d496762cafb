/** Taking an import away. */
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';

/** Takes away everything an import that was never applied wrote, also what a killed attempt left; contents others use stay. */
export async function clearImport(deps: Deps, importId: string): Promise<void> {
  await deps.db.transaction(async (tx) => {
    await clearRows(tx, importId);
    await tx.run(
      `delete from content c where c.import_id = $1
          and not exists (select 1 from source_file f where f.hash = c.hash)
          and not exists (select 1 from release r where r.rules_hash = c.hash)`,
      [importId],
    );
  });
}

/** What is known of its files. Their contents stay: decisions, drafts and releases may have them. */
export async function clearRows(tx: Queries, importId: string): Promise<void> {
  for (const table of [
    'source_file',
    'file_reading',
    'dead_link',
    'import_note',
    'menu_place',
    'menu_list',
    'import_menus',
    'touch_place',
    'crawled_address',
  ])
    await tx.run(`delete from ${table} where import_id = $1`, [importId]);
}
