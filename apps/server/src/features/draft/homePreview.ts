/** What making a page home does, told before it is done. */
import type { HomePreview } from '@fastigium/contracts/api/pages';
import { readAttribute, readBaseHref, walkElements, parsePage, collectText } from '@fastigium/core/html';
import { walkItems, type MenuItem } from '@fastigium/core/menus';
import { findPublishedPath, type ShardHashes } from '@fastigium/core/release';
import { findDraftAddress } from '@fastigium/core/site';
import { resolveLed } from '@fastigium/core/touches';
import type { Deps } from '../../deps.ts';
import { readContentsByHash } from '../shared/contents.ts';
import { readEntries } from '../shared/manifests.ts';
import { readSituationNow } from './openDraft.ts';
import { compileDraft } from './compileDraft.ts';
import { readSiteState } from './history.ts';
import { nameMenu } from './menuNames.ts';
import { findMenuItems, readPagesOfItems, readSiteMenus } from './menus.ts';
import { readPagesAt, readPagesLinkingTo, type SourcePage } from './pageFiles.ts';
import { foldWith } from './prepare/addresses.ts';
import { hasFormerAddress, readHomeNow, readImportedFront, prepareHome } from './prepare/home.ts';
import { readName, requirePage, type Situation } from './prepare/situation.ts';

/** Reading more for a preview would keep people waiting. */
const MOST_PAGES_READ = 120;
const MOST_NAMED = 6;

export async function previewHome(
  deps: Deps,
  site: string,
  request: { page: string; formerAddress?: string | undefined },
): Promise<HomePreview> {
  const situation = await readSituationNow(deps, site);
  const { tx, draft } = situation;
  const { decision } = await prepareHome(situation, request);
  const after = foldWith(situation, decision);
  const named = async (each: SourcePage, inDraft = draft) => ({
    id: each.id,
    label: await readName(situation, each),
    address: findDraftAddress(inDraft, each),
  });
  const former = await readHomeNow(situation);
  const front = await readImportedFront(situation);
  const { shards } = await compileDraft(deps, site);
  const linking = await readPagesToFront(situation);
  const read = linking.slice(0, MOST_PAGES_READ);
  const items = await readMenuItemsToHome(situation);
  return {
    version: (await readSiteState(tx, site)).version,
    page: await named(await requirePage(situation, request.page)),
    former: former
      ? { ...(await named(former, after)), canChoose: former.id === front && !hasFormerAddress(situation, former.id) }
      : null,
    leading: [
      ...items.map(({ paths: _, ...item }) => item),
      ...(await readLinksToFront(situation, shards, read, named, items)),
    ],
    linkingPages: linking.length,
    readPages: read.length,
  };
}

async function readPagesToFront({ tx, importId, draft }: Situation): Promise<readonly SourcePage[]> {
  const fronts = await readPagesAt(tx, importId, ['index.html', 'index.htm']);
  return readPagesLinkingTo(
    tx,
    importId,
    draft,
    fronts.map(({ sourcePath }) => sourcePath),
  );
}

type Leading = HomePreview['leading'][number];

interface MenuLeading extends Leading {
  /** Of the pages that have the menu. */
  readonly paths: ReadonlySet<string>;
}

async function readMenuItemsToHome({ tx, importId, draft }: Situation): Promise<MenuLeading[]> {
  const menus = await readSiteMenus(tx, importId);
  const pageAt = await readPagesOfItems(tx, importId, menus);
  return menus.flatMap((menu) =>
    [...walkItems<MenuItem>(findMenuItems(draft, menu, pageAt))]
      .filter(({ target, removed }) => target.kind === 'home' && removed === undefined)
      .map(({ label }): MenuLeading => ({
        kind: 'menu',
        label,
        menu: nameMenu(menu, menus),
        pages: menu.pages.length,
        on: [],
        paths: new Set(menu.pages),
      })),
  );
}

/** Links to the front by what they show: one with a picture in it is a logo. Those of menus are told with their menus. */
async function readLinksToFront(
  { tx, draft }: Situation,
  shards: ShardHashes,
  pages: readonly SourcePage[],
  named: (page: SourcePage) => Promise<Leading['on'][number]>,
  items: readonly MenuLeading[],
): Promise<Leading[]> {
  const entries = await readEntries(
    tx,
    shards,
    pages.map((page) => findPublishedPath(draft, page)),
  );
  const hashOf = (page: SourcePage) => entries.get(findPublishedPath(draft, page))?.hash ?? page.hash;
  const contents = await readContentsByHash(tx, pages.map(hashOf));
  const found = new Map<string, { kind: 'logo' | 'link'; label: string; pages: Map<string, SourcePage> }>();
  for (const page of pages) {
    const bytes = contents.get(hashOf(page));
    if (!bytes) continue;
    const document = parsePage(bytes);
    const base = readBaseHref(document);
    for (const element of walkElements(document.root)) {
      const href = element.tagName === 'a' || element.tagName === 'area' ? readAttribute(element, 'href') : undefined;
      if (
        href === undefined ||
        href === '' ||
        href.startsWith('#') ||
        resolveLed(href, findDraftAddress(draft, page), base) !== (draft.basePath || '/')
      )
        continue;
      const words = collectText(element);
      if (items.some(({ label, paths }) => label === words && paths.has(page.sourcePath))) continue;
      const picture = [...walkElements(element)].find(({ tagName }) => tagName === 'img' || tagName === 'svg');
      const label = words || (picture && readAttribute(picture, 'alt')) || readAttribute(element, 'title') || '';
      const kind = picture ? 'logo' : 'link';
      const key = `${kind} ${label}`;
      const there = found.get(key) ?? { kind, label, pages: new Map<string, SourcePage>() };
      there.pages.set(page.id, page);
      found.set(key, there);
    }
  }
  return Promise.all(
    [...found.values()]
      .sort((a, b) => b.pages.size - a.pages.size)
      .map(async ({ kind, label, pages: on }): Promise<Leading> => ({
        kind,
        label,
        menu: null,
        pages: on.size,
        on: await Promise.all([...on.values()].slice(0, MOST_NAMED).map((page) => named(page))),
      })),
  );
}
