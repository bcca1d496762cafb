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
import { findAddressOfFile } from '@fastigium/core/address';
import { walkItems, type MenuItem } from '@fastigium/core/menus';
import {
  findDraftAddress,
  reckonDraftRows,
  isAdded,
  isOut,
  findSiteAddress,
  withoutNodes,
  type Draft,
  type RemovedThing,
} from '@fastigium/core/site';
import type { Deps } from '../../deps.ts';
import { readDraftRules } from '../draft/draftRules.ts';
import { nameMenu } from '../draft/menuNames.ts';
import { findMenuItems, readPagesOfItems, readSiteMenus } from '../draft/menus.ts';
import { readAllPages, readPagesById, readPagesLinkingTo, type SourcePage } from '../draft/pageFiles.ts';
import { foldWith } from '../draft/prepare/addresses.ts';
import { nameTaker, preparePuttingBack, describeThing, type PreparedPutBack } from '../draft/prepare/putBack.ts';
import { findPageAbove, readWhatGoes } from '../draft/prepare/remove.ts';
import { readDraftTree, readName, readNodeName, requirePage, type Situation } from '../draft/prepare/situation.ts';
import { readToday } from '../shared/today.ts';
import { readVisits } from './list.ts';
import { readSituationNow } from '../draft/openDraft.ts';
import { goesWithSection } from './withSection.ts';

const MOST_SHOWN = 50;
const MOST_NAMED = 5;

export async function previewRemove(deps: Deps, site: string, wanted: RemoveRequest['thing']): Promise<RemovePreview> {
  const situation = await readSituationNow(deps, site);
  const { draft, importId, tx } = situation;
  const { thing, label } = await readWhatGoes(situation, wanted);
  const nodes = thing.kind === 'nodes' ? thing.nodes : [];
  const tree = await readDraftTree(situation);
  const pages = await readPagesById(tx, importId, draft, nodes);
  const addresses =
    thing.kind === 'file'
      ? [draft.basePath + findAddressOfFile(thing.path)]
      : [...pages.values()].map((page) => findDraftAddress(draft, page));
  const goes = await Promise.all(
    nodes.slice(0, MOST_SHOWN).map(async (id) => {
      const page = pages.get(id);
      return { label: await readNodeName(situation, tree, id), address: page ? findDraftAddress(draft, page) : null };
    }),
  );
  const linking = await findLinkedFrom(situation, thing, pages);
  const landing = await findLandingOn(situation, thing, addresses);
  const visits = [...(await readVisits(tx, site, addresses)).values()].flatMap((each) => each.visits ?? []);
  const parent = thing.kind === 'nodes' ? await findPageAbove(situation, nodes[0] ?? '') : undefined;
  const parentPage = parent === undefined ? undefined : await requirePage(situation, parent);
  return {
    label,
    goes: thing.kind === 'nodes' ? goes : [{ label, address: addresses[0] ?? null }],
    goesInAll: Math.max(1, nodes.length),
    linkedFrom: await Promise.all(
      linking.slice(0, MOST_SHOWN).map(async (page) => ({
        id: page.id,
        label: await readName(situation, page),
        address: findDraftAddress(draft, page),
      })),
    ),
    linkedFromInAll: linking.length,
    menus: await findMenusLosing(situation, new Set(nodes)),
    redirects: landing.slice(0, MOST_SHOWN),
    redirectsInAll: landing.length,
    visits: visits.length === 0 ? null : visits.reduce((sum, each) => sum + each, 0),
    roles: [
      ...([...pages.values()].some((page) => findSiteAddress(draft, page) === '/') ? ['home' as const] : []),
      ...(nodes.some((id) => draft.listings.has(id)) ? ['listing' as const] : []),
    ],
    parent: parentPage
      ? {
          id: parentPage.id,
          label: await readName(situation, parentPage),
          address: findDraftAddress(draft, parentPage),
        }
      : null,
    hasAddress: addresses.length > 0,
    inside: thing.kind === 'section' ? await goesWithSection(situation, thing) : null,
  };
}

async function findLinkedFrom(
  { tx, importId, draft }: Situation,
  thing: RemovedThing,
  going: ReadonlyMap<string, SourcePage>,
): Promise<SourcePage[]> {
  const paths =
    thing.kind === 'file'
      ? [thing.path]
      : [...going.values()].filter(({ id }) => !isAdded(draft, id)).map(({ sourcePath }) => sourcePath);
  const linking = await readPagesLinkingTo(tx, importId, draft, paths);
  const byTouch = [...draft.touches.values()].flatMap(({ scope, ...touch }) =>
    touch.kind === 'link' && touch.target?.kind === 'page' && going.has(touch.target.page) && scope.kind === 'page'
      ? [scope.page]
      : [],
  );
  const touched = await readPagesById(tx, importId, draft, byTouch);
  // Pages added here are read whole when they are compiled; only their touches say that they lead somewhere.
  const all = new Map(
    [...linking.filter(({ id }) => !isAdded(draft, id)), ...touched.values()].map((page) => [page.id, page]),
  );
  return [...all.values()].filter(({ id }) => !going.has(id));
}

async function findLandingOn(
  { tx, importId, draft, deps }: Situation,
  thing: RemovedThing,
  addresses: readonly string[],
): Promise<string[]> {
  if (thing.kind !== 'nodes' && thing.kind !== 'file') return [];
  const gone = new Set(addresses);
  const { rules } = await readDraftRules(tx, importId, draft, readToday(deps));
  return rules
    .filter(({ to, isPattern }) => !isPattern && to !== undefined && gone.has(to.split('#')[0] ?? ''))
    .map(({ from }) => from);
}

async function findMenusLosing(
  { tx, importId, draft }: Situation,
  nodes: ReadonlySet<string>,
): Promise<MenuPartMessage[]> {
  const menus = await readSiteMenus(tx, importId);
  const pageAt = await readPagesOfItems(tx, importId, menus);
  return menus.flatMap((menu) => {
    const items = findMenuItems(draft, menu, pageAt);
    const lost = [...walkItems<MenuItem>(items)].filter(
      ({ target, removed }) =>
        removed === undefined && target.kind === 'page' && nodes.has(target.page) && !draft.hidden.has(target.page),
    );
    return lost.length === 0
      ? []
      : [menuPart('items', { menu: nameMenu(menu, menus), items: lost.map(({ label }) => thing('named', { label })) })];
  });
}

export async function previewPutBack(
  deps: Deps,
  site: string,
  request: Pick<PutBackRequest, 'things' | 'where' | 'taken'>,
): Promise<PutBackPreview> {
  const situation = await readSituationNow(deps, site);
  const prepared = await preparePuttingBack(situation, request);
  const { tree, nodes, taken } = prepared;
  const after = foldWith(situation, prepared.decision);
  const parents = new Map(tree.whole.map(({ page, parent }) => [page.id, parent]));
  const back = new Set(nodes);
  const above = parents.get(nodes[0] ?? '') ?? null;
  const isParentOut =
    above !== null && isOut(situation.draft, above) && !back.has(above) && prepared.decision.places.length === 0;
  const standing = withoutNodes(reckonDraftRows(after, tree.every.values()), (id) => isOut(after, id));
  return {
    lines: await listChanges(situation, prepared, after, standing),
    taken: await Promise.all(
      taken.map(async (each) => ({
        label: await readName(situation, each.page),
        address: each.address,
        by: await nameTaker(situation, each),
        isFile: each.by === undefined,
        free: each.free,
      })),
    ),
    parentOut: isParentOut ? { label: await readNodeName(situation, tree, above) } : null,
    under: await describeStandsUnder(situation, prepared, standing),
  };
}

type Standing = readonly { readonly page: { readonly id: string }; readonly parent: string | null }[];
type Line = PutBackPreview['lines'][number];

async function describeStandsUnder(
  situation: Situation,
  { nodes, tree }: PreparedPutBack,
  standing: Standing,
): Promise<StoodMessage> {
  const parent = standing.find(({ page }) => page.id === nodes[0])?.parent ?? null;
  return parent === null ? stood('at-top') : stood('under', { name: await readNodeName(situation, tree, parent) });
}

async function listChanges(
  situation: Situation,
  prepared: PreparedPutBack,
  after: Draft,
  standing: Standing,
): Promise<Line[]> {
  const { draft, tx, importId, deps } = situation;
  const { nodes, tree, decision, removals } = prepared;
  const lines: Line[] = [];
  const add = (what: Line['what'], message: PuttingBackMessage) => lines.push({ what, message });
  const pages = await readPagesById(tx, importId, after, nodes);
  if (nodes.length > 0) {
    const first = nodes[0] ?? '';
    const page = pages.get(first);
    const name = await readNodeName(situation, tree, first);
    if (nodes.length > 1) add('back', puttingBack('branch', { name, more: nodes.length - 1 }));
    else if (page) add('back', puttingBack('page-at', { name, address: findDraftAddress(after, page) }));
    else add('back', puttingBack('page', { name }));
    add('place', await placeOf(situation, prepared, standing));
  }
  for (const removal of removals) {
    if (removal.thing.kind === 'nodes') continue;
    const stays = removal.redirects.filter(({ redirect }) => draft.redirects.has(redirect.from));
    add('back', puttingBack('thing', { thing: describeThing(removal) }));
    for (const { redirect } of stays.slice(0, MOST_SHOWN))
      add('stays', puttingBack('settled-otherwise', { from: redirect.from }));
  }
  for (const menu of await findMenusLosing({ ...situation, draft: after }, new Set(nodes)))
    add('menu', puttingBack('menu', { menu }));
  const linking = await findLinkedFrom({ ...situation, draft: after }, { kind: 'nodes', nodes }, pages);
  const changing = removals.some(
    ({ links, thing }) => links !== 'kept' && (thing.kind === 'nodes' || thing.kind === 'file'),
  );
  if (linking.length > 0)
    add('links', puttingBack(changing ? 'links-lead-here-again' : 'links-lead-here', { pages: linking.length }));
  const day = readToday(deps);
  const rulesOf = async (inDraft: Draft) =>
    new Map((await readDraftRules(tx, importId, inDraft, day)).rules.map(({ from, to }) => [from, to ?? '410']));
  const [was, now] = [await rulesOf(draft), await rulesOf(after)];
  const retired = [...was.keys()].filter((from) => !now.has(from));
  if (retired.length === 1) add('redirect', puttingBack('redirect-retires', { from: retired[0] ?? '' }));
  if (retired.length > 1) {
    const some = retired.slice(0, 3);
    const all = some.length === retired.length ? 'yes' : 'no';
    add('redirect', puttingBack('redirects-retire', { count: retired.length, some, all }));
  }
  const all = await readAllPages(tx, importId, after);
  const readdressed = [...all.values()].filter(({ id }) => decision.addresses[id] !== undefined);
  for (const page of readdressed.slice(0, MOST_NAMED)) {
    const name = await readName({ ...situation, draft: after }, page);
    add('address', puttingBack('answers-at', { name, address: findDraftAddress(after, page) }));
  }
  const more = readdressed.length - MOST_NAMED;
  if (more > 0) add('address', puttingBack('more-move-along', { count: more }));
  if (decision.home)
    add('home', puttingBack('is-home-again', { name: await readNodeName(situation, tree, decision.home.page) }));
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
  const name = async (id: string | undefined) =>
    id === undefined ? undefined : await readNodeName(situation, tree, id);
  const place = parent === null ? stood('at-top') : stood('under', { name: (await name(parent)) ?? '' });
  const [before, behind] = [await name(siblings[at - 1]), await name(siblings[at + 1])];
  if (before !== undefined && behind !== undefined) return puttingBack('stands-between', { place, before, behind });
  if (before !== undefined) return puttingBack('stands-behind', { place, before });
  return behind === undefined
    ? puttingBack('stands-alone', { place })
    : puttingBack('stands-before', { place, behind });
}
