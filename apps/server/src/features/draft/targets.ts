/** What links can lead to beside pages: elements in them, and the site's files. */
import { findAddressOfFile } from '@fastigium/core/address';
import { readAttribute, walkElements, parsePage, collectText } from '@fastigium/core/html';
import { compilePage } from '@fastigium/core/release';
import type { Deps } from '../../deps.ts';
import { planOne } from './compileOne.ts';
import { readLatestDraft, readSiteState } from './history.ts';
import { openPage } from './openPage.ts';

/** A list to choose from, not an index. */
const MOST_PLACES = 500;
const MOST_FILES = 20;
const MOST_LETTERS = 60;

/** In the order of the page as it will be published. */
export async function listPlacesInPage(deps: Deps, site: string, id: string): Promise<{ id: string; label: string }[]> {
  const open = await openPage(deps.db, site, id);
  const { plan, shared } = await planOne(deps.db, site, open, open.page);
  const { root } = parsePage(compilePage(plan, shared, open.bytes).bytes);
  const out = new Map<string, string>();
  for (const element of walkElements(root)) {
    // What a fragment can lead to: ids, and names of anchors (HTML standard, section 7.4.6.3).
    const anchorName =
      readAttribute(element, 'id') || (element.tagName === 'a' ? readAttribute(element, 'name') : undefined);
    if (anchorName && !out.has(anchorName)) out.set(anchorName, collectText(element).slice(0, MOST_LETTERS));
    if (out.size >= MOST_PLACES) break;
  }
  return [...out].map(([place, label]) => ({ id: place, label }));
}

export async function findFilesNamed(deps: Deps, site: string, search: string): Promise<string[]> {
  const { currentImport: importId } = await readSiteState(deps.db, site);
  if (importId === null) return [];
  const draft = await readLatestDraft(deps.db, site);
  const rows = await deps.db.many<{ path: string }>(
    'select path from source_file where import_id = $1 and page_id is null and position(lower($2) in lower(path)) > 0 order by length(path), path limit $3',
    [importId, search.replace(/^\//, ''), MOST_FILES],
  );
  const added = [...draft.assets.keys()].filter((path) =>
    path.toLowerCase().includes(search.toLowerCase().replace(/^\//, '')),
  );
  return [...new Set([...added, ...rows.map(({ path }) => path)])]
    .filter((path) => !draft.removedFiles.has(path))
    .slice(0, MOST_FILES)
    .map(findAddressOfFile);
}
