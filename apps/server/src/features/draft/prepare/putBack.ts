/** Putting back: whole or in part, where it was, and never over what stands there now. */
import { decision as decided, type DecisionMessage } from '@fastigium/contracts/messages/decision';
import { thing as named } from '@fastigium/contracts/messages/names';
import type { MessageOf } from '@fastigium/core/messages';
import type { PutBackRequest } from '@fastigium/contracts/decisions/removals';
import { DomainError } from '@fastigium/contracts/errors';
import { findAddressOfFile, stripAddressEnding } from '@fastigium/core/address';
import { findPublishedPath, stripBase } from '@fastigium/core/release';
import {
  findDraftAddress,
  findPlainAddress,
  findSiteAddress,
  type Addresses,
  type Decision,
  type Draft,
  type HomeChoice,
  type Removal,
} from '@fastigium/core/site';
import { readAllPages, readPagesById, type SourcePage } from '../pageFiles.ts';
import { readAddressEnding, foldWith, findFreeBelow, moveAlong, refuseSharedAddress } from './addresses.ts';
import { prepareHome } from './home.ts';
import { readDraftTree, readName, readNodeName, type DraftTree, type Prepared, type Situation } from './situation.ts';

type PutBack = Extract<Decision, { kind: 'put-back' }>;

/** An address that somebody else has by now. */
export interface Taken {
  readonly page: SourcePage;
  readonly address: string;
  /** Undefined for a file. */
  readonly by: SourcePage | undefined;
  readonly free: string;
}

export interface PreparedPutBack {
  readonly decision: PutBack;
  readonly removals: readonly Removal[];
  /** Nodes that stand again, in tree order. */
  readonly nodes: readonly string[];
  readonly tree: DraftTree;
  readonly taken: readonly Taken[];
}

export async function preparePutBack(situation: Situation, request: PutBackRequest): Promise<Prepared> {
  const prepared = await preparePuttingBack(situation, request);
  const [first] = prepared.taken;
  if (first && request.taken === 'stop')
    throw new DomainError('put-back-taken', {
      address: findSiteAddress(situation.draft, first.page),
      title: await nameTaker(situation, first),
    });
  await refuseSharedAddress(situation, foldWith(situation, prepared.decision));
  return { decision: prepared.decision, message: await putBackMessage(situation, prepared) };
}

export async function nameTaker(situation: Situation, { by, address }: Taken): Promise<string> {
  return by ? readName(situation, by) : address;
}

export async function preparePuttingBack(
  situation: Situation,
  request: Pick<PutBackRequest, 'things' | 'where' | 'taken'>,
): Promise<PreparedPutBack> {
  const tree = await readDraftTree(situation);
  const wanted = await requireThings(situation, request, tree);
  const nodes = listNodes(tree, wanted);
  for (const { thing } of wanted.removals)
    if (thing.kind === 'section' && situation.draft.removed.has(thing.page) && !nodes.includes(thing.page))
      throw new DomainError('removed-with-page');
  const places = request.where === 'top' ? placeAtTop(situation, tree, nodes) : [];
  const bare: PutBack = { kind: 'put-back', things: wanted.things, places, addresses: {}, unsettled: [] };
  const taken = await findTakenAddresses(situation, bare, nodes, tree);
  const addresses =
    request.taken === 'keep-both'
      ? await prepareNewAddresses(
          situation,
          bare,
          taken.map(({ page, free }) => ({ page, free })),
        )
      : request.taken === 'swap'
        ? await prepareNewAddresses(situation, bare, taken.map(makesRoom))
        : {};
  const home = await restoreHome(situation, wanted.removals, nodes);
  const decision: PutBack = { ...bare, addresses, ...(home ? { home } : {}) };
  return {
    decision: { ...decision, unsettled: listAnsweredAgain(situation, decision, nodes, tree) },
    removals: wanted.removals,
    nodes,
    tree,
    taken,
  };
}

interface Wanted {
  readonly things: PutBack['things'];
  readonly removals: readonly Removal[];
}

async function requireThings(
  situation: Situation,
  { things, where }: Pick<PutBackRequest, 'things' | 'where'>,
  tree: DraftTree,
): Promise<Wanted> {
  const { draft } = situation;
  const byRemoval = new Map<number, Set<string> | undefined>();
  const add = (removalSeq: number, nodes: readonly string[] | undefined) => {
    const known = byRemoval.get(removalSeq);
    byRemoval.set(
      removalSeq,
      nodes === undefined || (byRemoval.has(removalSeq) && known === undefined)
        ? undefined
        : new Set([...(known ?? []), ...nodes]),
    );
  };
  for (const { of: removalSeq, nodes } of things) {
    const removal = requireRemoval(situation, removalSeq);
    if (nodes?.some((node) => !removal.left.includes(node))) throw new DomainError('not-removed');
    add(removalSeq, nodes);
  }
  if (where === 'with-parents') {
    const parents = new Map(tree.whole.map(({ page, parent }) => [page.id, parent]));
    for (const [removalSeq, some] of [...byRemoval]) {
      for (const node of some ?? requireRemoval(situation, removalSeq).left) {
        for (let at = parents.get(node) ?? null; at !== null; at = parents.get(at) ?? null) {
          const above = draft.removed.get(at);
          if (
            above !== undefined &&
            draft.removals.has(above) &&
            !(byRemoval.has(above) && byRemoval.get(above) === undefined)
          )
            add(above, [at]);
        }
      }
    }
  }
  return {
    things: [...byRemoval].map(([removalSeq, nodes]) =>
      nodes === undefined ? { of: removalSeq } : { of: removalSeq, nodes: [...nodes] },
    ),
    removals: [...byRemoval.keys()].map((removalSeq) => requireRemoval(situation, removalSeq)),
  };
}

/** Two people may put the same back, and a sweep may have been faster; each learns which it was. */
export function requireRemoval(
  { draft, decisions }: Pick<Situation, 'draft' | 'decisions'>,
  removalSeq: number,
): Removal {
  const removal = draft.removals.get(removalSeq);
  if (removal) return removal;
  const isSwept = decisions.some(({ decision }) => decision.kind === 'swept' && decision.of.includes(removalSeq));
  throw new DomainError(isSwept ? 'removal-swept' : 'not-removed');
}

function listNodes({ whole }: DraftTree, { things, removals }: Wanted): string[] {
  const out = new Set(
    things.flatMap(({ of: removalSeq, nodes }) => nodes ?? removals.find(({ seq }) => seq === removalSeq)?.left ?? []),
  );
  return whole.filter(({ page }) => out.has(page.id)).map(({ page }) => page.id);
}

/** Those that have nothing of what comes back above them, behind everything else at the top. */
function placeAtTop({ draft }: Situation, { whole, rows }: DraftTree, nodes: readonly string[]): PutBack['places'] {
  const back = new Set(nodes);
  const parents = new Map(whole.map(({ page, parent }) => [page.id, parent]));
  let after = rows.filter(({ depth }) => depth === 0).at(-1)?.page.id ?? null;
  return nodes.flatMap((node) => {
    const parent = parents.get(node) ?? null;
    if (parent === null || back.has(parent) || !draft.removed.has(parent)) return [];
    const place = { node, place: { parent: null, after } };
    after = node;
    return [place];
  });
}

async function findTakenAddresses(
  situation: Situation,
  decision: PutBack,
  nodes: readonly string[],
  { every, pages }: DraftTree,
): Promise<Taken[]> {
  const { draft } = situation;
  const after = foldWith(situation, decision);
  const back = filterBack(every, nodes);
  const paths = new Map([...back.values()].map((page) => [findPublishedPath(after, page), page]));
  const owners = new Map(
    [...pages.values()].flatMap((page) =>
      paths.has(findPublishedPath(draft, page)) ? [[findPublishedPath(draft, page), page] as const] : [],
    ),
  );
  const files = new Set(await findFilesAt(situation, [...paths.keys()]));
  const out: Taken[] = [];
  for (const node of nodes) {
    const page = back.get(node);
    const path = page && findPublishedPath(after, page);
    if (!page || path === undefined || (!owners.has(path) && !files.has(path))) continue;
    out.push({
      page,
      address: findDraftAddress(after, page),
      by: owners.get(path),
      free: await findFreeNear(situation, after, page),
    });
  }
  return out;
}

function filterBack(every: ReadonlyMap<string, SourcePage>, nodes: readonly string[]): Map<string, SourcePage> {
  return new Map(
    nodes.flatMap((node) => {
      const page = every.get(node);
      return page ? [[node, page] as const] : [];
    }),
  );
}

/** Paths at which the draft publishes a file that is no page. */
async function findFilesAt({ tx, importId, draft }: Situation, paths: readonly string[]): Promise<string[]> {
  const inside = new Map(
    paths.flatMap((path) => {
      const file = stripBase(draft.basePath, path);
      return file === undefined ? [] : [[file, path] as const];
    }),
  );
  const rows = await tx.many<{ path: string }>(
    'select path from source_file where import_id = $1 and page_id is null and path = any($2)',
    [importId, [...inside.keys()]],
  );
  return [...rows.map(({ path }) => path), ...draft.assets.keys()].flatMap((path) => {
    const at = draft.removedFiles.has(path) ? undefined : inside.get(path);
    return at === undefined ? [] : [at];
  });
}

async function findFreeNear(situation: Situation, draft: Draft, page: SourcePage): Promise<string> {
  const address = findPlainAddress(draft, page);
  const stem = stripAddressEnding(address);
  return findFreeBelow(
    situation,
    stem.slice(0, stem.lastIndexOf('/')),
    stem.slice(stem.lastIndexOf('/') + 1),
    readAddressEnding(address) || '/',
  );
}

/** The other one gets the free address. */
function makesRoom({ by, address, free }: Taken): { page: SourcePage; free: string } {
  if (!by) throw new DomainError('put-back-over-file', { address });
  return { page: by, free };
}

/** Pages to their new addresses, with what stands below them. */
async function prepareNewAddresses(
  situation: Situation,
  decision: PutBack,
  moves: readonly { page: SourcePage; free: string }[],
): Promise<Addresses> {
  const { tx, importId } = situation;
  const after = foldWith(situation, decision);
  const moving = new Set(moves.map(({ page }) => page.id));
  const back = new Set(
    decision.things.flatMap(({ of: removalSeq, nodes }) => nodes ?? requireRemoval(situation, removalSeq).left),
  );
  // Only what comes back goes along with what comes back, and only what stands with what makes room.
  const all = [...(await readAllPages(tx, importId, after)).values()];
  const out: Record<string, string> = {};
  for (const { page, free } of moves) {
    if (out[page.id] !== undefined) continue;
    const alike = all.filter((each) => back.has(each.id) === back.has(page.id));
    for (const [id, address] of Object.entries(moveAlong(after, page, free, alike)))
      if (id === page.id || !moving.has(id) || back.has(id)) out[id] ??= address;
  }
  return out;
}

/** Home again, where whoever took over still is it. */
async function restoreHome(
  situation: Situation,
  removals: readonly Removal[],
  nodes: readonly string[],
): Promise<HomeChoice | undefined> {
  const { draft, decisions, tx, importId } = situation;
  const back = new Set(nodes);
  for (const { seq } of removals) {
    const removed = decisions.find((each) => each.seq === seq)?.decision;
    if (removed?.kind !== 'removed' || !removed.home) continue;
    const now = (await readPagesById(tx, importId, draft, [removed.home.page])).get(removed.home.page);
    const was = findHomeBefore(situation, seq);
    if (was === undefined || !back.has(was) || !now || findSiteAddress(draft, now) !== '/') continue;
    const standing = {
      ...situation,
      draft: { ...draft, removed: new Map([...draft.removed].filter(([id]) => !back.has(id))) },
    };
    const { decision } = await prepareHome(standing, { page: was });
    if (decision.kind === 'home') return { page: decision.page, importedHome: decision.importedHome };
  }
  return undefined;
}

/** The page that stood at "/" just before a removal. */
function findHomeBefore({ decisions, draft }: Situation, seq: number): string | undefined {
  const before = foldWith({ decisions: decisions.filter((each) => each.seq < seq), seq }, { kind: 'undo', of: 0 });
  if (before.home !== undefined) return before.home;
  const removed = decisions.find((each) => each.seq === seq)?.decision;
  return removed?.kind === 'removed' ? (removed.home?.importedHome?.page ?? draft.home) : undefined;
}

/** Old addresses that were settled meanwhile and that pages answer themselves again. */
function listAnsweredAgain(
  situation: Situation,
  decision: PutBack,
  nodes: readonly string[],
  { every }: DraftTree,
): string[] {
  if (situation.draft.redirects.size === 0) return [];
  const after = foldWith(situation, decision);
  return [...filterBack(every, nodes).values()].flatMap((page) => {
    const address = findDraftAddress(after, page);
    return [
      address,
      ...(findPublishedPath(after, page).endsWith('index.html')
        ? [findAddressOfFile(findPublishedPath(after, page))]
        : []),
    ].filter((address, index, all) => all.indexOf(address) === index && after.redirects.has(address));
  });
}

async function putBackMessage(
  situation: Situation,
  { removals, nodes, tree, decision }: PreparedPutBack,
): Promise<DecisionMessage> {
  const [first] = removals;
  const count = removals.length;
  if (count > 1 && nodes.length === 0) return decided('many-put-back', { count });
  const root = nodes[0];
  const moved = Object.values(decision.addresses)[0];
  return decided('put-back', {
    thing:
      root !== undefined || !first
        ? named('named', { label: await readNodeName(situation, tree, root ?? '') })
        : describeThing(first),
    more: Math.max(0, nodes.length - 1),
    readdressed: moved === undefined ? 'no' : 'yes',
    address: moved ?? '',
  });
}

export function describeThing({ thing, redirects }: Removal): MessageOf<typeof named> {
  switch (thing.kind) {
    case 'nodes':
      return named('pages');
    case 'section':
      return named('section', { label: thing.section.name.slice(0, 80) });
    case 'file':
      return named('file', { address: `/${thing.path}` });
    case 'menu-item':
      return named('menu-item', { label: thing.label });
    case 'redirects': {
      const count = redirects.length + thing.patterns.length;
      const [only] = redirects;
      if (count !== 1) return named('redirects', { count });
      return only ? named('redirect', { label: only.redirect.from }) : named('a-pattern');
    }
  }
}
