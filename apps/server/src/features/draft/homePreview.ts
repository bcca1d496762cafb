/** What making a page home does, told before it is done. */
import type { HomePreview } from '@fastigium/contracts/api/pages';
import { attribute, baseHref, elements, parsePage, textOf } from '@fastigium/core/html';
import { allItems, type MenuItem } from '@fastigium/core/menus';
import { publishedPath, type ShardHashes } from '@fastigium/core/release';
import { draftAddress } from '@fastigium/core/site';
import { addressLed } from '@fastigium/core/touches';
import type { Deps } from '../../deps.ts';
import { contentsByHash } from '../shared/contents.ts';
import { entriesOf } from '../shared/manifests.ts';
import { situationNow } from './openDraft.ts';
import { compileDraft } from './compileDraft.ts';
import { siteState } from './history.ts';
import { menuName } from './menuNames.ts';
import { itemsOf, pagesOfItems, siteMenus } from './menus.ts';
import { pagesAt, pagesLinkingTo, type SourcePage } from './pageFiles.ts';
import { draftWith } from './prepare/addresses.ts';
import { hasFormerAddress, homeNow, importedFront, prepareHome } from './prepare/home.ts';
import { nameOf, pageOf, type Situation } from './prepare/situation.ts';

/** Reading more for a preview would keep people waiting. */
const MOST_PAGES_READ = 120;
const MOST_NAMED = 6;

export async function previewHome(
  deps: Deps,
  site: string,
  request: { page: string; formerAddress?: string | undefined },
): Promise<HomePreview> {
  const situation = await situationNow(deps, site);
  const { tx, draft } = situation;
  const { decision } = await prepareHome(situation, request);
  const after = draftWith(situation, decision);
  const named = async (each: SourcePage, inDraft = draft) => ({
    id: each.id,
    label: await nameOf(situation, each),
    address: draftAddress(inDraft, each),
  });
  const former = await homeNow(situation);
  const front = await importedFront(situation);
  const { shards } = await compileDraft(deps, site);
  const linking = await pagesToFront(situation);
  const read = linking.slice(0, MOST_PAGES_READ);
  const items = await menuItemsToHome(situation);
  return {
    version: (await siteState(tx, site)).version,
    page: await named(await pageOf(situation, request.page)),
    former: former
      ? { ...(await named(former, after)), canChoose: former.id === front && !hasFormerAddress(situation, former.id) }
      : null,
    leading: [
      ...items.map(({ paths: _, ...item }) => item),
      ...(await linksToFront(situation, shards, read, named, items)),
    ],
    linkingPages: linking.length,
    readPages: read.length,
  };
}

async function pagesToFront({ tx, importId, draft }: Situation): Promise<readonly SourcePage[]> {
  const fronts = await pagesAt(tx, importId, ['index.html', 'index.htm']);
  return pagesLinkingTo(
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

async function menuItemsToHome({ tx, importId, draft }: Situation): Promise<MenuLeading[]> {
  const menus = await siteMenus(tx, importId);
  const pageAt = await pagesOfItems(tx, importId, menus);
  return menus.flatMap((menu) =>
    [...allItems<MenuItem>(itemsOf(draft, menu, pageAt))]
      .filter(({ target, removed }) => target.kind === 'home' && removed === undefined)
      .map(({ label }): MenuLeading => ({
        kind: 'menu',
        label,
        menu: menuName(menu, menus),
        pages: menu.pages.length,
        on: [],
        paths: new Set(menu.pages),
      })),
  );
}

/** Links to the front by what they show: one with a picture in it is a logo. Those of menus are told with their menus. */
async function linksToFront(
  { tx, draft }: Situation,
  shards: ShardHashes,
  pages: readonly SourcePage[],
  named: (page: SourcePage) => Promise<Leading['on'][number]>,
  items: readonly MenuLeading[],
): Promise<Leading[]> {
  const entries = await entriesOf(
    tx,
    shards,
    pages.map((page) => publishedPath(draft, page)),
  );
  const hashOf = (page: SourcePage) => entries.get(publishedPath(draft, page))?.hash ?? page.hash;
  const contents = await contentsByHash(tx, pages.map(hashOf));
  const found = new Map<string, { kind: 'logo' | 'link'; label: string; pages: Map<string, SourcePage> }>();
  for (const page of pages) {
    const bytes = contents.get(hashOf(page));
    if (!bytes) continue;
    const document = parsePage(bytes);
    const base = baseHref(document);
    for (const element of elements(document.root)) {
      const href = element.tagName === 'a' || element.tagName === 'area' ? attribute(element, 'href') : undefined;
      if (
        href === undefined ||
        href === '' ||
        href.startsWith('#') ||
        addressLed(href, draftAddress(draft, page), base) !== (draft.basePath || '/')
      )
        continue;
      const words = textOf(element);
      if (items.some(({ label, paths }) => label === words && paths.has(page.sourcePath))) continue;
      const picture = [...elements(element)].find(({ tagName }) => tagName === 'img' || tagName === 'svg');
      const label = words || (picture && attribute(picture, 'alt')) || attribute(element, 'title') || '';
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
