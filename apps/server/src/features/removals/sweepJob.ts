/** Deleting what was removed for good and what only releases had that are not kept, where nothing else needs it. */
import { isAdded } from '@fastigium/core/site';
import type { Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import type { JobHandler } from '../../jobs/queue.ts';
import { holdContents } from '../shared/contents.ts';
import { readNeededContents } from '../shared/neededContents.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import { takeLetGo } from '../releases/keeping.ts';
import { openDraft } from '../draft/openDraft.ts';
import { progressStep } from '@fastigium/contracts/messages/progress';

export function sweepJob(deps: Deps): JobHandler {
  return {
    async run({ site, signal, report }) {
      // The draft lets go of it first; then only releases and other sites can still need a content.
      await compileDraft(deps, site, { signal });
      await deps.db.transaction(async (tx) => {
        await holdContents(tx, 'alone');
        const { draft } = await openDraft(tx, site);
        const swept = [...draft.removed].filter(([, seq]) => !draft.removals.has(seq)).map(([id]) => id);
        const hashes = [...new Set([...(await takeSources(tx, site, draft, swept)), ...(await takeLetGo(tx, site))])];
        report({ step: progressStep('looking-who-needs-it'), done: 0, total: hashes.length, unit: 'files' });
        const needed = await readNeededContents(tx, new Set(hashes), new Set(swept));
        await tx.run('delete from content where hash = any($1)', [hashes.filter((hash) => !needed.has(hash))]);
      });
    },
  };
}

/** Their files in every import of the site. @returns their contents, and those of files removed for good */
async function takeSources(tx: Queries, site: string, draft: Draft, swept: readonly string[]): Promise<string[]> {
  const imported = swept.filter((id) => !isAdded(draft, id));
  const files = [...draft.removedFiles].filter(([, seq]) => !draft.removals.has(seq)).map(([path]) => path);
  const rows = await tx.many<{ importId: string; path: string; hash: string }>(
    `select f.import_id as "importId", f.path, f.hash from source_file f join import i on i.id = f.import_id
      where i.site_id = $1 and (f.page_id = any($2) or (f.page_id is null and f.path = any($3)))`,
    [site, imported, files],
  );
  const keys = [rows.map(({ importId }) => importId), rows.map(({ path }) => path)];
  for (const table of ['file_reading', 'dead_link', 'menu_place', 'crawled_address', 'source_file']) {
    await tx.run(
      `delete from ${table} t using unnest($1::uuid[], $2::text[]) as k(import_id, path) where t.import_id = k.import_id and t.path = k.path`,
      keys,
    );
  }
  // An export that brings the same file again brings a page that is new here.
  await tx.run(`update page set source_path = null where site_id = $1 and id = any($2)`, [site, imported]);
  await tx.run('delete from added_page where site_id = $1 and page_id = any($2)', [site, swept]);
  const added = swept.flatMap((id) => {
    const node = draft.nodes.get(id);
    return node?.kind === 'page' ? [node.hash] : [];
  });
  const assets = files.flatMap((path) => draft.assets.get(path)?.hash ?? []);
  return [...new Set([...rows.map(({ hash }) => hash), ...added, ...assets])];
}
