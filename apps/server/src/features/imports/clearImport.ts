/** Taking an import away. */
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { holdContents } from '../shared/contents.ts';
import { readNeededContents } from '../shared/neededContents.ts';

/**
 * Takes away everything an import that was never applied wrote, also what a killed attempt left. Of its contents those
 * stay that somebody else has meanwhile: another import, a release, or a decision, which may have brought the same bytes.
 */
export async function clearImport(deps: Deps, importId: string): Promise<void> {
  await deps.db.transaction(async (tx) => {
    await holdContents(tx, 'alone');
    await clearRows(tx, importId);
    const brought = await tx.many<{ hash: string }>('select hash from content where import_id = $1', [importId]);
    const hashes = new Set(brought.map(({ hash }) => hash));
    const needed = await readNeededContents(tx, hashes);
    await tx.run('delete from content where hash = any($1)', [[...hashes].filter((hash) => !needed.has(hash))]);
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
