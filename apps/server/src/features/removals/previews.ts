/** What removing or putting back would change, reckoned as the decision itself is. */
import { thing } from '@fastigium/contracts/messages/names';
import {
  menuPart,
  puttingBack,
  stood,
  type MenuPartMessage,
  type PuttingBackMessage,
  type StoodMessage,
} from '@fastigium/contracts/messages/removal';
import type { PutBackPreview, RemovePreview } from '@fastigium/contracts/api/removals';
import type { PutBackRequest, RemoveRequest } from '@fastigium/contracts/decisions/removals';
import { addressOfFile } from '@fastigium/core/address';
import { allItems, type MenuItem } from '@fastigium/core/menus';
import {
  draftAddress,
  draftRows,
  isAdded,
  isOut,
  siteAddress,
  withoutNodes,
  type Draft,
  type RemovedThing,
} from '@fastigium/core/site';
import type { Deps } from '../../deps.ts';
import { draftRules } from '../draft/draftRules.ts';
import { menuName } from '../draft/menuNames.ts';
import { itemsOf, pagesOfItems, siteMenus } from '../draft/menus.ts';
import { allPages, pagesById, pagesLinkingTo, type SourcePage } from '../draft/pageFiles.ts';
import { draftWith } from '../draft/prepare/addresses.ts';
import { byName, preparedPutBack, thingMessage, type PreparedPutBack } from '../draft/prepare/putBack.ts';
import { pageAbove, whatGoes } from '../draft/prepare/remove.ts';
import { draftTree, nameOf, nodeName, pageOf, type Situation } from '../draft/prepare/situation.ts';
import { today } from '../shared/today.ts';
import { visitsOf } from './list.ts';
import { situationNow } from '../draft/openDraft.ts';
import { goesWithSection } from './withSection.ts';

const MOST_SHOWN = 50;
const MOST_NAMED = 5;

export async function previewRemove(deps: Deps, site: string, wanted: RemoveRequest['thing']): Promise<RemovePreview> {
  const situation = await situationNow(deps, site);
  const { draft, importId, tx } = situation;
  const { thing, label } = await whatGoes(situation, wanted);
  const nodes = thing.kind === 'nodes' ? thing.nodes : [];
  const tree = await draftTree(situation);
  const pages = await pagesById(tx, importId, draft, nodes);
  const addresses =
    thing.kind === 'file'
      ? [draft.basePath + addressOfFile(thing.path)]
      : [...pages.values()].map((page) => draftAddress(draft, page));
  const goes = await Promise.all(
    nodes.slice(0, MOST_SHOWN).map(async (id) => {
      const page = pages.get(id);
      return { label: await nodeName(situation, tree, id), address: page ? draftAddress(draft, page) : null };
    }),
  );
  const linking = await linkedFrom(situation, thing, pages);
  const landing = await landingOn(situation, thing, addresses);
  const visits = [...(await visitsOf(tx, site, addresses)).values()].flatMap((each) => each.visits ?? []);
  const parent = thing.kind === 'nodes' ? await pageAbove(situation, nodes[0] ?? '') : undefined;
  const parentPage = parent === undefined ? undefined : await pageOf(situation, parent);
  return {
    label,
    goes: thing.kind === 'nodes' ? goes : [{ label, address: addresses[0] ?? null }],
    goesInAll: Math.max(1, nodes.length),
    linkedFrom: await Promise.all(
      linking.slice(0, MOST_SHOWN).map(async (page) => ({
        id: page.id,
        label: await nameOf(situation, page),
        address: draftAddress(draft, page),
      })),
    ),
    linkedFromInAll: linking.length,
    menus: await menusLosing(situation, new Set(nodes)),
    redirects: landing.slice(0, MOST_SHOWN),
    redirectsInAll: landing.length,
    visits: visits.length === 0 ? null : visits.reduce((sum, each) => sum + each, 0),
    roles: [
      ...([...pages.values()].some((page) => siteAddress(draft, page) === '/') ? ['home' as const] : []),
      ...(nodes.some((id) => draft.listings.has(id)) ? ['listing' as const] : []),
    ],
    parent: parentPage
      ? { id: parentPage.id, label: await nameOf(situation, parentPage), address: draftAddress(draft, parentPage) }
      : null,
    hasAddress: addresses.length > 0,
    inside: thing.kind === 'section' ? await goesWithSection(situation, thing) : null,
  };
}

async function linkedFrom(
  { tx, importId, draft }: Situation,
  thing: RemovedThing,
  going: ReadonlyMap<string, SourcePage>,
): Promise<SourcePage[]> {
  const paths =
    thing.kind === 'file'
      ? [thing.path]
      : [...going.values()].filter(({ id }) => !isAdded(draft, id)).map(({ sourcePath }) => sourcePath);
  const linking = await pagesLinkingTo(tx, importId, draft, paths);
  const byTouch = [...draft.touches.values()].flatMap(({ scope, ...touch }) =>
    touch.kind === 'link' && touch.target?.kind === 'page' && going.has(touch.target.page) && scope.kind === 'page'
      ? [scope.page]
      : [],
  );
  const touched = await pagesById(tx, importId, draft, byTouch);
  // Pages added here are read whole when they are compiled; only their touches say that they lead somewhere.
  const all = new Map(
    [...linking.filter(({ id }) => !isAdded(draft, id)), ...touched.values()].map((page) => [page.id, page]),
  );
  return [...all.values()].filter(({ id }) => !going.has(id));
}

async function landingOn(
  { tx, importId, draft, deps }: Situation,
  thing: RemovedThing,
  addresses: readonly string[],
): Promise<string[]> {
  if (thing.kind !== 'nodes' && thing.kind !== 'file') return [];
  const gone = new Set(addresses);
  const { rules } = await draftRules(tx, importId, draft, today(deps));
  return rules
    .filter(({ to, isPattern }) => !isPattern && to !== undefined && gone.has(to.split('#')[0] ?? ''))
    .map(({ from }) => from);
}

async function menusLosing({ tx, importId, draft }: Situation, nodes: ReadonlySet<string>): Promise<MenuPartMessage[]> {
  const menus = await siteMenus(tx, importId);
  const pageAt = await pagesOfItems(tx, importId, menus);
  return menus.flatMap((menu) => {
    const items = itemsOf(draft, menu, pageAt);
    const lost = [...allItems<MenuItem>(items)].filter(
      ({ target, removed }) =>
        removed === undefined && target.kind === 'page' && nodes.has(target.page) && !draft.hidden.has(target.page),
    );
    return lost.length === 0
      ? []
      : [menuPart('items', { menu: menuName(menu, menus), items: lost.map(({ label }) => thing('named', { label })) })];
  });
}

export async function previewPutBack(
  deps: Deps,
  site: string,
  request: Pick<PutBackRequest, 'things' | 'where' | 'taken'>,
): Promise<PutBackPreview> {
  const situation = await situationNow(deps, site);
  const prepared = await preparedPutBack(situation, request);
  const { tree, nodes, taken } = prepared;
  const after = draftWith(situation, prepared.decision);
  const parents = new Map(tree.whole.map(({ page, parent }) => [page.id, parent]));
  const back = new Set(nodes);
  const above = parents.get(nodes[0] ?? '') ?? null;
  const isParentOut =
    above !== null && isOut(situation.draft, above) && !back.has(above) && prepared.decision.places.length === 0;
  const standing = withoutNodes(draftRows(after, tree.every.values()), (id) => isOut(after, id));
  return {
    lines: await changes(situation, prepared, after, standing),
    taken: await Promise.all(
      taken.map(async (each) => ({
        label: await nameOf(situation, each.page),
        address: each.address,
        by: await byName(situation, each),
        isFile: each.by === undefined,
        free: each.free,
      })),
    ),
    parentOut: isParentOut ? { label: await nodeName(situation, tree, above) } : null,
    under: await standsUnder(situation, prepared, standing),
  };
}

type Standing = readonly { readonly page: { readonly id: string }; readonly parent: string | null }[];
type Line = PutBackPreview['lines'][number];

async function standsUnder(
  situation: Situation,
  { nodes, tree }: PreparedPutBack,
  standing: Standing,
): Promise<StoodMessage> {
  const parent = standing.find(({ page }) => page.id === nodes[0])?.parent ?? null;
  return parent === null ? stood('at-top') : stood('under', { name: await nodeName(situation, tree, parent) });
}

async function changes(
  situation: Situation,
  prepared: PreparedPutBack,
  after: Draft,
  standing: Standing,
): Promise<Line[]> {
  const { draft, tx, importId, deps } = situation;
  const { nodes, tree, decision, removals } = prepared;
  const lines: Line[] = [];
  const add = (what: Line['what'], message: PuttingBackMessage) => lines.push({ what, message });
  const pages = await pagesById(tx, importId, after, nodes);
  if (nodes.length > 0) {
    const first = nodes[0] ?? '';
    const page = pages.get(first);
    const name = await nodeName(situation, tree, first);
    if (nodes.length > 1) add('back', puttingBack('branch', { name, more: nodes.length - 1 }));
    else if (page) add('back', puttingBack('page-at', { name, address: draftAddress(after, page) }));
    else add('back', puttingBack('page', { name }));
    add('place', await placeOf(situation, prepared, standing));
  }
  for (const removal of removals) {
    if (removal.thing.kind === 'nodes') continue;
    const stays = removal.redirects.filter(({ redirect }) => draft.redirects.has(redirect.from));
    add('back', puttingBack('thing', { thing: thingMessage(removal) }));
    for (const { redirect } of stays.slice(0, MOST_SHOWN))
      add('stays', puttingBack('settled-otherwise', { from: redirect.from }));
  }
  for (const menu of await menusLosing({ ...situation, draft: after }, new Set(nodes)))
    add('menu', puttingBack('menu', { menu }));
  const linking = await linkedFrom({ ...situation, draft: after }, { kind: 'nodes', nodes }, pages);
  const changing = removals.some(
    ({ links, thing }) => links !== 'kept' && (thing.kind === 'nodes' || thing.kind === 'file'),
  );
  if (linking.length > 0)
    add('links', puttingBack(changing ? 'links-lead-here-again' : 'links-lead-here', { pages: linking.length }));
  const day = today(deps);
  const rulesOf = async (inDraft: Draft) =>
    new Map((await draftRules(tx, importId, inDraft, day)).rules.map(({ from, to }) => [from, to ?? '410']));
  const [was, now] = [await rulesOf(draft), await rulesOf(after)];
  const retired = [...was.keys()].filter((from) => !now.has(from));
  if (retired.length === 1) add('redirect', puttingBack('redirect-retires', { from: retired[0] ?? '' }));
  if (retired.length > 1) {
    const some = retired.slice(0, 3);
    const all = some.length === retired.length ? 'yes' : 'no';
    add('redirect', puttingBack('redirects-retire', { count: retired.length, some, all }));
  }
  const all = await allPages(tx, importId, after);
  const readdressed = [...all.values()].filter(({ id }) => decision.addresses[id] !== undefined);
  for (const page of readdressed.slice(0, MOST_NAMED)) {
    const name = await nameOf({ ...situation, draft: after }, page);
    add('address', puttingBack('answers-at', { name, address: draftAddress(after, page) }));
  }
  const more = readdressed.length - MOST_NAMED;
  if (more > 0) add('address', puttingBack('more-move-along', { count: more }));
  if (decision.home)
    add('home', puttingBack('is-home-again', { name: await nodeName(situation, tree, decision.home.page) }));
  return lines;
}

async function placeOf(
  situation: Situation,
  { nodes, tree }: PreparedPutBack,
  standing: Standing,
): Promise<PuttingBackMessage> {
  const first = nodes[0] ?? '';
  const parent = standing.find(({ page }) => page.id === first)?.parent ?? null;
  const siblings = standing.filter((row) => row.parent === parent).map(({ page }) => page.id);
  const at = siblings.indexOf(first);
  const name = async (id: string | undefined) => (id === undefined ? undefined : await nodeName(situation, tree, id));
  const place = parent === null ? stood('at-top') : stood('under', { name: (await name(parent)) ?? '' });
  const [before, behind] = [await name(siblings[at - 1]), await name(siblings[at + 1])];
  if (before !== undefined && behind !== undefined) return puttingBack('stands-between', { place, before, behind });
  if (before !== undefined) return puttingBack('stands-behind', { place, before });
  return behind === undefined
    ? puttingBack('stands-alone', { place })
    : puttingBack('stands-before', { place, behind });
}
