/** A draft's page as it is published: its source with everything decided spliced in. */
import { relativeReference } from '../address/index.ts';
import { headEdits } from '../head/index.ts';
import {
  attribute, attributeEdits, baseHref, linkEdits, parsePage, splice, titleEdit, unlinkEdits, withoutOverlaps,
  type Edit, type Element, type PageDocument,
} from '../html/index.ts';
import { listingEdits } from '../listing/index.ts';
import { isCurrentItem, menuEdit, menusIn, signature, type WrittenItem } from '../menus/index.ts';
import { arrangeEdits, arrangement, swapsOf, touchEdits, type LinkTarget } from '../touches/index.ts';
import { movedUnder } from './basePath.ts';
import type { MenuPlan, PagePlan, PlannedItem, SharedPlan } from './plan.ts';

export interface CompiledPage {
  readonly path: string;
  /** The source's own bytes, the very same array, where nothing about the page changed. */
  readonly bytes: Uint8Array;
  readonly encoding: string;
}

/** @param extra further edits, the last to be heard: they give way to all others */
export function compilePage(plan: PagePlan, shared: SharedPlan, bytes: Uint8Array, extra?: (document: PageDocument) => readonly Edit[]): CompiledPage {
  const document = parsePage(bytes);
  const edits = withoutOverlaps([...pageEdits(document, plan, shared), ...(extra?.(document) ?? [])]);
  const order = plan.touches.findLast((touch) => touch.kind === 'sections');
  const isArranged = order !== undefined || plan.sectionsOut.length > 0;
  const arranged = isArranged ? arrangeEdits(document, arrangement(document, order?.order ?? [], plan.sectionsOut), edits) : edits;
  return { path: plan.path, bytes: splice(bytes, document.source, arranged), encoding: document.source.encoding };
}

/** In the order in which they are heard where two concern the same span. */
function pageEdits(document: PageDocument, plan: PagePlan, shared: SharedPlan): Edit[] {
  const hrefOf = (target: LinkTarget) =>
    target.kind === 'page' ? shared.pageAddresses.get(target.page) : target.kind === 'file' ? shared.basePath + target.address : target.url;
  // The latest decision first: of two about the same place, the last one counts.
  const outcomes = plan.touches.toReversed().map((touch) => ({ kind: touch.kind, ...touchEdits(document, touch, plan, hrefOf) }));
  const attributes = new Map<Element, Record<string, string | null>>();
  for (const { attributes: sets } of outcomes) for (const { element, values } of sets) attributes.set(element, { ...values, ...attributes.get(element) });
  const swaps = swapsOf(plan.touches);
  const moved = movedUnder(shared.basePath, shared.moves);
  const movedTo = (path: string) => {
    const swapped = swaps.get(path);
    return swapped === undefined ? moved(path) : shared.basePath + swapped;
  };
  return [
    // What is left out takes everything in it along.
    ...outcomes.filter(({ kind }) => kind === 'parts-out').flatMap(({ edits }) => edits),
    ...menuEdits(document, plan, shared.menus),
    ...(plan.listing === undefined ? [] : listingEdits(document, plan.listing.plan, { importedAddresses: new Set(plan.listing.importedAddresses), before: plan.before, after: plan.after })),
    ...outcomes.filter(({ kind }) => kind !== 'parts-out').flatMap(({ edits }) => edits),
    // A link that somebody made lead elsewhere is no link to what is removed.
    ...unlinkEdits(document, plan.before, (path, element) => shared.unlinked.has(path) && attributes.get(element)?.['href'] === undefined),
    ...[...attributes].flatMap(([element, values]) => attributeEdits(element, values)),
    ...headEdits(document, plan.head),
    // A form of titles already holds the one that was set.
    ...(plan.title === undefined || plan.head.some(({ name }) => name === 'title') ? [] : [titleEdit(document, plan.title)]),
    ...linkEdits(document, { before: plan.before, after: plan.after, movedTo }),
  ];
}

function menuEdits(document: PageDocument, plan: PagePlan, menus: readonly MenuPlan[]): Edit[] {
  if (menus.length === 0) return [];
  return menusIn(document, plan.before).flatMap((place) => {
    const here = signature(place.items);
    const menu = menus.find((each) => each.way === place.way && (each.signature === here || (each.whereItDiffers && !each.others.includes(here))));
    if (!menu) return [];
    const hasBase = baseHref(document) !== undefined;
    const firstHref = place.items[0] && attribute(place.items[0].link, 'href');
    const isRooted = hasBase || firstHref === undefined || /^[/\\]|^[a-z][a-z0-9+.-]*:/i.test(firstHref);
    const write = (item: PlannedItem): WrittenItem => ({
      was: item.was, label: item.label, newWindow: item.newWindow,
      href: item.isOutside || isRooted ? item.to : relativeReference(plan.after, item.to),
      isCurrent: !item.isOutside && isCurrentItem(item.to, plan.after, menu.marksBranch),
      children: item.children.map(write),
    });
    const edit = menuEdit(document, place, menu.items.map(write), { mark: menu.mark });
    return edit ? [edit] : [];
  });
}
