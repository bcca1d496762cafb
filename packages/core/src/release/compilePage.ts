/** A draft's page as it is published: its source with everything decided spliced in. */
import { findAddressOfFile, decodePath, formatAddress, relativiseReference, resolveHref } from '../address/index.ts';
import { editHead } from '../head/index.ts';
import {
  editAttributes,
  readBaseHref,
  linkEdits,
  parsePage,
  splice,
  editTitle,
  unlinkEdits,
  withInside,
  withoutOverlaps,
  type Edit,
  type Element,
  type PageDocument,
  type SourcePiece,
} from '../html/index.ts';
import { editListing } from '../listing/index.ts';
import { isCurrentItem, editMenu, findMenus, settleWords, type WrittenItem } from '../menus/index.ts';
import { arrangeEdits, arrangeSections, listSwaps, editTouch, type LinkTarget } from '../touches/index.ts';
import { mapMovesUnder } from './basePath.ts';
import { isOfMenu, type MenuPlan, type PagePlan, type PlannedItem, type SharedPlan } from './plan.ts';

export interface CompiledPage {
  readonly path: string;
  /** The source's own bytes, the very same array, where nothing about the page changed. */
  readonly bytes: Uint8Array;
  readonly encoding: string;
}

/** @param extra further edits, the last to be heard: they give way to all others */
export function compilePage(
  plan: PagePlan,
  shared: SharedPlan,
  bytes: Uint8Array,
  extra?: (document: PageDocument) => readonly Edit[],
): CompiledPage {
  const document = parsePage(bytes);
  const edits = editPage(document, plan, shared, extra?.(document) ?? []);
  const order = plan.touches.findLast((touch) => touch.kind === 'sections');
  const isArranged = order !== undefined || plan.sectionsOut.length > 0;
  const arranged = isArranged
    ? arrangeEdits(document, arrangeSections(document, order?.order ?? [], plan.sectionsOut), edits)
    : edits;
  return { path: plan.path, bytes: splice(bytes, document.source, arranged), encoding: document.source.encoding };
}

/**
 * What stands in the published page where a span of its source stood, tags that begin and end inside it included;
 * undefined where that went. Positions in the decoded text, UTF-16 units.
 */
export function compileSpan(
  plan: PagePlan,
  shared: SharedPlan,
  document: PageDocument,
  span: { readonly start: number; readonly end: number },
): string | undefined {
  return sliceEdited(document.source.text, editPage(document, plan, shared, []), span.start, span.end);
}

function sliceEdited(text: string, edits: readonly Edit[], from: number, to: number): string | undefined {
  const around = edits.find(
    ({ start, end }) => start <= from && end >= to && !(start === from && end === to) && end > start,
  );
  if (around) {
    if (typeof around.text === 'string') return undefined;
    const parts: readonly (string | SourcePiece)[] = 'from' in around.text ? [around.text] : around.text;
    for (const part of parts)
      if (typeof part !== 'string' && part.from <= from && part.to >= to)
        return sliceEdited(text, part.edits, from, to);
    return undefined;
  }
  const write = (part: string | SourcePiece): string =>
    typeof part === 'string' ? part : (sliceEdited(text, part.edits, part.from, part.to) ?? '');
  let out = '';
  let at = from;
  for (const { start, end, text: now } of [...edits].sort((a, b) => a.start - b.start || a.end - b.end)) {
    if (start < at || end > to) continue;
    out +=
      text.slice(at, start) + (typeof now === 'string' ? now : 'from' in now ? write(now) : now.map(write).join(''));
    at = end;
  }
  return out + text.slice(at, to);
}

function editPage(document: PageDocument, plan: PagePlan, shared: SharedPlan, extra: readonly Edit[]): Edit[] {
  const hrefOf = (target: LinkTarget) =>
    target.kind === 'page'
      ? shared.pageAddresses.get(target.page)
      : target.kind === 'home'
        ? `${shared.basePath}/`
        : target.kind === 'file'
          ? shared.basePath + target.address
          : target.url;
  // The latest decision first: of two about the same place, the last one counts.
  const outcomes = plan.touches
    .toReversed()
    .map((touch) => ({ kind: touch.kind, ...editTouch(document, touch, plan, hrefOf) }));
  const attributes = new Map<Element, Record<string, string | null>>();
  for (const { attributes: sets } of outcomes)
    for (const { element, values } of sets) attributes.set(element, { ...values, ...attributes.get(element) });
  const swaps = listSwaps(plan.touches);
  const moved = mapMovesUnder(shared.basePath, shared.moves);
  const movedTo = (path: string) => {
    const swapped = swaps.get(path);
    return swapped === undefined ? moved(path) : shared.basePath + swapped;
  };
  // In the order in which they are heard where two concern the same span.
  const others = [
    ...(plan.listing === undefined
      ? []
      : editListing(document, plan.listing.plan, {
          importedAddresses: new Set(plan.listing.importedAddresses),
          before: plan.before,
          after: plan.after,
        })),
    ...outcomes.filter(({ kind }) => kind !== 'parts-out').flatMap(({ edits }) => edits),
    // A link that somebody made lead elsewhere is no link to what is removed.
    ...unlinkEdits(
      document,
      plan.before,
      (path, element) => shared.unlinked.has(path) && attributes.get(element)?.['href'] === undefined,
    ),
    ...[...attributes].flatMap(([element, values]) => editAttributes(element, values, document.source.text)),
    ...editHead(document, plan.head),
    // A form of titles already holds the one that was set.
    ...(plan.title === undefined || plan.head.some(({ name }) => name === 'title')
      ? []
      : [editTitle(document, plan.title)]),
    ...linkEdits(document, { before: plan.before, after: plan.after, isCopy: plan.isCopy, movedTo }),
    ...extra,
  ];
  return withoutOverlaps([
    // What is left out takes everything in it along.
    ...outcomes.filter(({ kind }) => kind === 'parts-out').flatMap(({ edits }) => edits),
    ...editMenus(document, plan, shared.menus, moved).map((edit) => withInside(edit, others)),
    ...others,
  ]);
}

/** @param movedTo see movedUnder */
function editMenus(
  document: PageDocument,
  plan: PagePlan,
  menus: readonly MenuPlan[],
  movedTo: (path: string) => string | undefined,
): Edit[] {
  if (menus.length === 0) return [];
  const base = readBaseHref(document);
  const leadsTo = (href: string, to: string): boolean => {
    const meant = resolveHref(href, plan.before, base);
    if (meant.kind !== 'inside') return (meant.kind === 'outside' ? meant.url : href.trim()) === to;
    const path = movedTo(meant.address.path) ?? meant.address.path;
    const hash = meant.fragment === undefined ? '' : `#${meant.fragment}`;
    // A page answers by its file's name and, where it is a folder's, without the last slash as well.
    return [path, findAddressOfFile(decodePath(path.slice(1)) ?? ''), `${path}/`].some(
      (spelling) => formatAddress({ ...meant.address, path: spelling }) + hash === to,
    );
  };
  const hrefTo = (to: string, like: string | undefined): string => {
    const isRooted = base !== undefined || like === undefined || /^[/\\]|^[a-z][a-z0-9+.-]*:/i.test(like);
    return !to.startsWith('/') || isRooted ? to : relativiseReference(plan.after, to);
  };
  const pointed = new Set(menus.flatMap(({ isPointed, ways }) => (isPointed ? ways : [])));
  return findMenus(document, plan.before, pointed).flatMap((place) => {
    const menu = menus.find((each) => isOfMenu(each, place));
    if (!menu) return [];
    const write = (item: PlannedItem): WrittenItem => ({
      was: item.was,
      to: item.to,
      label: item.label,
      newWindow: item.newWindow,
      children: item.children.map(write),
      isCurrent: item.to.startsWith('/') && isCurrentItem(item.to, plan.after, menu.marksBranch),
    });
    return editMenu(document, settleWords(place.items, menu.found), menu.items.map(write), {
      mark: menu.mark,
      opensBranch: menu.opensBranch,
      leadsTo,
      hrefTo,
    });
  });
}
