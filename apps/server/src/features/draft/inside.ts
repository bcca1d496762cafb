/** What is inside a page: its sections and parts, and what stands at a place somebody pointed at. */
import type { PageInside, Pointed } from '@fastigium/contracts/api/pages';
import { DomainError } from '@fastigium/contracts/errors';
import { listCandidateFiles, resolveHref } from '@fastigium/core/address';
import {
  findAnchorAt,
  listAnchors,
  readAttribute,
  readBaseHref,
  walkElements,
  fold,
  findParent,
  parsePage,
  PART_NAMES,
  findParts,
  findSections,
  collectText,
  listTextPlaces,
  type Element,
  type PageDocument,
} from '@fastigium/core/html';
import { compileSpan, findPublishedPath } from '@fastigium/core/release';
import { keySection, findSiteAddress, findWrittenFrom, type Draft } from '@fastigium/core/site';
import { resolveLed } from '@fastigium/core/touches';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { readKeptRemovals } from './keptRemovals.ts';
import { planOne } from './compileOne.ts';
import { openPage, type OpenPage } from './openPage.ts';
import { listAround } from './pointedMenus.ts';
import { readSectionLabel } from './sectionsNow.ts';
import { readAllPages } from './pageFiles.ts';

export async function readPageInside(deps: Deps, site: string, id: string): Promise<PageInside> {
  const open = await openPage(deps.db, site, id);
  const { draft, bytes } = open;
  const document = parsePage(bytes);
  const { plan, shared } = await planOne(deps.db, site, open, open.page);
  const touches = [...draft.touches.values()].filter(({ scope }) => scope.kind === 'page' && scope.page === id);
  const order = touches.findLast((touch) => touch.kind === 'sections')?.order;
  const out = touches.findLast((touch) => touch.kind === 'parts-out')?.parts ?? [];
  const removedHere = draft.removedSections.get(id);
  const kept = removedHere ? await readKeptRemovals(deps.db, site, draft) : undefined;
  const removalAt = (removal: number | undefined) => {
    const by = removal === undefined ? undefined : kept?.get(removal);
    return removal !== undefined && by ? { of: removal, by: by.by, at: by.at } : null;
  };
  const found = findSections(document)
    .map((section) => ({ ...section, label: readSectionLabel(plan, shared, document, section) }))
    .map(({ name, nth, label }) => ({
      name,
      nth,
      label,
      out:
        removedHere?.has(keySection({ name, nth })) ||
        (order?.some((ref) => ref.name === name && ref.nth === nth && ref.out) ?? false),
      removal: removalAt(removedHere?.get(keySection({ name, nth }))?.removal),
    }));
  const place = (section: { name: string; nth: number }) =>
    order?.findIndex(({ name, nth }) => name === section.name && nth === section.nth) ?? -1;
  const there = new Set(findParts(document).map(({ part }) => part));
  return {
    // In the order they have here; those the order does not name stay behind the one before them.
    sections: order ? sortByPlace(found, place) : found,
    parts: PART_NAMES.filter((part) => there.has(part)).map((part) => ({ part, out: out.includes(part) })),
    css: touches.findLast((touch) => touch.kind === 'css')?.css ?? '',
  };
}

function sortByPlace<S>(found: readonly S[], place: (section: S) => number): S[] {
  const sequence = found.filter((section) => place(section) >= 0).sort((a, b) => place(a) - place(b));
  found.forEach((section, index) => {
    if (sequence.includes(section)) return;
    const before = found[index - 1];
    sequence.splice(before ? sequence.indexOf(before) + 1 : 0, 0, section);
  });
  return sequence;
}

/** What stands at a place of the source, as the page will be published. */
export async function readPointed(
  deps: Deps,
  site: string,
  id: string,
  at: { start: number; child: number | null },
): Promise<Pointed> {
  const open = await openPage(deps.db, site, id);
  const { page, bytes } = open;
  const document = parsePage(bytes);
  const anchor = findAnchorAt(document, at.start, at.child ?? undefined);
  const element = findElementAt(document, at.start);
  if (!anchor || !element) throw new DomainError('touch-place-lost');
  const { plan, shared } = await planOne(deps.db, site, open, page);
  const standing = (span: { readonly start: number; readonly end: number }) =>
    compileSpan(plan, shared, document, span);
  const text =
    at.child === null ? undefined : [...listTextPlaces(document, element)].find(({ child }) => child === at.child);
  const base = readBaseHref(document);
  let link: Pointed['link'] = null;
  let list: Pointed['list'] = null;
  for (let around: Element | undefined = element; around && !link; around = findParent(around)) {
    const written = around.tagName === 'a' ? readAttribute(around, 'href') : undefined;
    const linkAnchor =
      written === undefined
        ? undefined
        : findAnchorAt(document, around.sourceCodeLocation?.startOffset ?? -1, undefined);
    if (written === undefined || !linkAnchor) continue;
    list = await listAround(deps.db, open.importId, document, {
      page: findWrittenFrom(page),
      start: around.sourceCodeLocation?.startOffset ?? -1,
    });
    const now = readTagNow(around, standing);
    const href = (now && readAttribute(now, 'href')) ?? '';
    const to = resolveHref(href, plan.after, base);
    const meant = to.kind === 'inside' && href !== '' ? to.address.path : undefined;
    link = {
      href,
      ...(await findPageMeant(deps.db, open, meant)),
      newWindow: (now && readAttribute(now, 'target')) === '_blank',
      anchor: linkAnchor,
      leads: resolveLed(written, findWrittenFrom(page), base) ?? null,
    };
  }
  const picture =
    element.tagName === 'img' && readAttribute(element, 'src') !== undefined
      ? (readTagNow(element, standing) ?? element)
      : undefined;
  const shown = picture && resolveHref(readAttribute(picture, 'src') ?? '', plan.after, base);
  const inside = shown?.kind === 'inside' ? stripBasePath(open.draft, shown.address.path) : undefined;
  return {
    anchor,
    text: text ? readTextNow(standing(text)) : null,
    link,
    picture: picture
      ? {
          address: inside ?? null,
          alt: readAttribute(picture, 'alt') ?? null,
          anchor: findAnchorAt(document, at.start, undefined) ?? anchor,
        }
      : null,
    list,
  };
}

type Standing = (span: { readonly start: number; readonly end: number }) => string | undefined;

/** An element's own tag with the attributes it will have. */
function readTagNow({ sourceCodeLocation: location }: Element, standing: Standing): Element | undefined {
  const span = location?.startTag ?? location;
  const source = span && standing({ start: span.startOffset, end: span.endOffset });
  if (source === undefined || source === null) return undefined;
  const { root } = parsePage(Buffer.from(source));
  return [...walkElements(root)].findLast(({ tagName }) => !['html', 'head', 'body'].includes(tagName));
}

function readTextNow(source: string | undefined): string {
  return source === undefined ? '' : fold(collectText(parsePage(Buffer.from(source)).root));
}

/** An address of the draft without the path the site is published under. */
function stripBasePath({ basePath }: Draft, path: string): string {
  return basePath !== '' && path.startsWith(`${basePath}/`) ? path.slice(basePath.length) : path;
}

function findElementAt(document: PageDocument, start: number) {
  for (const { element } of listAnchors(document))
    if (element.sourceCodeLocation?.startOffset === start) return element;
  return undefined;
}

async function findPageMeant(
  queries: Queries,
  { importId, draft }: OpenPage,
  path: string | undefined,
): Promise<{ page: string | null; isHome: boolean }> {
  if (path === undefined) return { page: null, isHome: false };
  const inside = stripBasePath(draft, path);
  const files = new Set([...listCandidateFiles(inside), ...listCandidateFiles(`${inside}/`)]);
  const pages = [...(await readAllPages(queries, importId, draft)).values()];
  const bare = { ...draft, basePath: '' };
  const page = pages.find(
    (each) => findSiteAddress(draft, each) === inside || files.has(findPublishedPath(bare, each)),
  );
  return { page: page?.id ?? null, isHome: page !== undefined && findSiteAddress(draft, page) === '/' };
}
