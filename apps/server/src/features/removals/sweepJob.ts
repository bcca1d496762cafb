/** Deleting what was removed for good and what only releases had that are not kept, where nothing else needs it. */
import { isAdded } from '@fastigium/core/site';
import type { Decision, Draft } from '@fastigium/core/site';
import { parseShard } from '@fastigium/core/release';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import type { JobHandler } from '../../jobs/queue.ts';
import { holdContents } from '../shared/contents.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import { takeLetGo } from '../releases/keeping.ts';
import { openDraft } from '../draft/openDraft.ts';
import { progressStep } from '@fastigium/contracts/messages/progress';

const SHARDS_AT_ONCE = 256;

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
        const needed = await neededElsewhere(tx, new Set(hashes), new Set(swept));
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
  await tx.run(`update page set source_path = '' where site_id = $1 and id = any($2)`, [site, imported]);
  await tx.run('delete from added_page where site_id = $1 and page_id = any($2)', [site, swept]);
  const added = swept.flatMap((id) => {
    const node = draft.nodes.get(id);
    return node?.kind === 'page' ? [node.hash] : [];
  });
  const assets = files.flatMap((path) => draft.assets.get(path)?.hash ?? []);
  return [...new Set([...rows.map(({ hash }) => hash), ...added, ...assets])];
}

/** Of some contents, those that another file, a page added anywhere, or a release has. */
async function neededElsewhere(
  tx: Queries,
  hashes: ReadonlySet<string>,
  swept: ReadonlySet<string>,
): Promise<Set<string>> {
  const needed = new Set(
    (
      await tx.many<{ hash: string }>(
        'select distinct hash from source_file where hash = any($1) union select rules_hash from release where rules_hash = any($1)',
        [[...hashes]],
      )
    ).map(({ hash }) => hash),
  );
  const decisions = await tx.many<{ body: Extract<Decision, { kind: 'node-added' | 'asset-added' | 'icons' }> }>(
    `select body from decision where body->>'kind' in ('node-added', 'asset-added', 'icons')`,
  );
  for (const { body } of decisions) {
    const of =
      body.kind === 'icons'
        ? body.icons
        : body.kind === 'asset-added'
          ? [body]
          : body.node.kind === 'page' && !swept.has(body.node.id)
            ? [body.node]
            : [];
    for (const { hash } of of) if (hashes.has(hash)) needed.add(hash);
  }
  const shards = (
    await tx.many<{ hash: string }>(
      'select distinct unnest(shards) as hash from (select shards from release where shards is not null union all select shards from draft) s',
    )
  ).map(({ hash }) => hash);
  for (let from = 0; from < shards.length && needed.size < hashes.size; from += SHARDS_AT_ONCE) {
    const texts = await tx.many<{ text: string }>('select text from manifest_shard where hash = any($1)', [
      shards.slice(from, from + SHARDS_AT_ONCE),
    ]);
    for (const { text } of texts) for (const { hash } of parseShard(text)) if (hashes.has(hash)) needed.add(hash);
  }
  return needed;
}
