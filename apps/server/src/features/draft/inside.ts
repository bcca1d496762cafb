/** What is inside a page: its sections and parts, and what stands at a place somebody pointed at. */
import type { PageInside, Pointed } from '@fastigium/contracts/api/pages';
import { DomainError } from '@fastigium/contracts/errors';
import { candidateFiles, resolveHref } from '@fastigium/core/address';
import {
  anchorAt,
  anchors,
  attribute,
  baseHref,
  elements,
  fold,
  parentOf,
  parsePage,
  PART_NAMES,
  parts,
  sections,
  textOf,
  textPlaces,
  type Element,
  type PageDocument,
} from '@fastigium/core/html';
import { compiledSpan, publishedPath } from '@fastigium/core/release';
import { sectionKey, siteAddress, writtenFrom, type Draft } from '@fastigium/core/site';
import { addressLed } from '@fastigium/core/touches';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { keptRemovals } from './keptRemovals.ts';
import { planOne } from './compileOne.ts';
import { openPage, type OpenPage } from './openPage.ts';
import { listAround } from './pointedMenus.ts';
import { labelOfSection } from './sectionsNow.ts';
import { allPages } from './pageFiles.ts';

export async function pageInside(deps: Deps, site: string, id: string): Promise<PageInside> {
  const open = await openPage(deps.db, site, id);
  const { draft, bytes } = open;
  const document = parsePage(bytes);
  const { plan, shared } = await planOne(deps.db, site, open, open.page);
  const touches = [...draft.touches.values()].filter(({ scope }) => scope.kind === 'page' && scope.page === id);
  const order = touches.findLast((touch) => touch.kind === 'sections')?.order;
  const out = touches.findLast((touch) => touch.kind === 'parts-out')?.parts ?? [];
  const removedHere = draft.removedSections.get(id);
  const kept = removedHere ? await keptRemovals(deps.db, site, draft) : undefined;
  const removalAt = (removal: number | undefined) => {
    const by = removal === undefined ? undefined : kept?.get(removal);
    return removal !== undefined && by ? { of: removal, by: by.by, at: by.at } : null;
  };
  const found = sections(document)
    .map((section) => ({ ...section, label: labelOfSection(plan, shared, document, section) }))
    .map(({ name, nth, label }) => ({
      name,
      nth,
      label,
      out:
        removedHere?.has(sectionKey({ name, nth })) ||
        (order?.some((ref) => ref.name === name && ref.nth === nth && ref.out) ?? false),
      removal: removalAt(removedHere?.get(sectionKey({ name, nth }))?.removal),
    }));
  const place = (section: { name: string; nth: number }) =>
    order?.findIndex(({ name, nth }) => name === section.name && nth === section.nth) ?? -1;
  const there = new Set(parts(document).map(({ part }) => part));
  return {
    // In the order they have here; those the order does not name stay behind the one before them.
    sections: order ? inOrder(found, place) : found,
    parts: PART_NAMES.filter((part) => there.has(part)).map((part) => ({ part, out: out.includes(part) })),
    css: touches.findLast((touch) => touch.kind === 'css')?.css ?? '',
  };
}

function inOrder<S>(found: readonly S[], place: (section: S) => number): S[] {
  const sequence = found.filter((section) => place(section) >= 0).sort((a, b) => place(a) - place(b));
  found.forEach((section, index) => {
    if (sequence.includes(section)) return;
    const before = found[index - 1];
    sequence.splice(before ? sequence.indexOf(before) + 1 : 0, 0, section);
  });
  return sequence;
}

/** What stands at a place of the source, as the page will be published. */
export async function pointedAt(
  deps: Deps,
  site: string,
  id: string,
  at: { start: number; child: number | null },
): Promise<Pointed> {
  const open = await openPage(deps.db, site, id);
  const { page, bytes } = open;
  const document = parsePage(bytes);
  const anchor = anchorAt(document, at.start, at.child ?? undefined);
  const element = elementAt(document, at.start);
  if (!anchor || !element) throw new DomainError('touch-place-lost');
  const { plan, shared } = await planOne(deps.db, site, open, page);
  const standing = (span: { readonly start: number; readonly end: number }) =>
    compiledSpan(plan, shared, document, span);
  const text =
    at.child === null ? undefined : [...textPlaces(document, element)].find(({ child }) => child === at.child);
  const base = baseHref(document);
  let link: Pointed['link'] = null;
  let list: Pointed['list'] = null;
  for (let around: Element | undefined = element; around && !link; around = parentOf(around)) {
    const written = around.tagName === 'a' ? attribute(around, 'href') : undefined;
    const linkAnchor =
      written === undefined ? undefined : anchorAt(document, around.sourceCodeLocation?.startOffset ?? -1, undefined);
    if (written === undefined || !linkAnchor) continue;
    list = await listAround(deps.db, open.importId, document, {
      page: writtenFrom(page),
      start: around.sourceCodeLocation?.startOffset ?? -1,
    });
    const now = tagNow(around, standing);
    const href = (now && attribute(now, 'href')) ?? '';
    const to = resolveHref(href, plan.after, base);
    const meant = to.kind === 'inside' && href !== '' ? to.address.path : undefined;
    link = {
      href,
      ...(await pageMeant(deps.db, open, meant)),
      newWindow: (now && attribute(now, 'target')) === '_blank',
      anchor: linkAnchor,
      leads: addressLed(written, writtenFrom(page), base) ?? null,
    };
  }
  const picture =
    element.tagName === 'img' && attribute(element, 'src') !== undefined
      ? (tagNow(element, standing) ?? element)
      : undefined;
  const shown = picture && resolveHref(attribute(picture, 'src') ?? '', plan.after, base);
  const inside = shown?.kind === 'inside' ? insideSite(open.draft, shown.address.path) : undefined;
  return {
    anchor,
    text: text ? textNow(standing(text)) : null,
    link,
    picture: picture
      ? {
          address: inside ?? null,
          alt: attribute(picture, 'alt') ?? null,
          anchor: anchorAt(document, at.start, undefined) ?? anchor,
        }
      : null,
    list,
  };
}

type Standing = (span: { readonly start: number; readonly end: number }) => string | undefined;

/** An element's own tag with the attributes it will have. */
function tagNow({ sourceCodeLocation: location }: Element, standing: Standing): Element | undefined {
  const span = location?.startTag ?? location;
  const source = span && standing({ start: span.startOffset, end: span.endOffset });
  if (source === undefined || source === null) return undefined;
  const { root } = parsePage(Buffer.from(source));
  return [...elements(root)].findLast(({ tagName }) => !['html', 'head', 'body'].includes(tagName));
}

function textNow(source: string | undefined): string {
  return source === undefined ? '' : fold(textOf(parsePage(Buffer.from(source)).root));
}

/** An address of the draft without the path the site is published under. */
function insideSite({ basePath }: Draft, path: string): string {
  return basePath !== '' && path.startsWith(`${basePath}/`) ? path.slice(basePath.length) : path;
}

function elementAt(document: PageDocument, start: number) {
  for (const { element } of anchors(document)) if (element.sourceCodeLocation?.startOffset === start) return element;
  return undefined;
}

async function pageMeant(
  queries: Queries,
  { importId, draft }: OpenPage,
  path: string | undefined,
): Promise<{ page: string | null; isHome: boolean }> {
  if (path === undefined) return { page: null, isHome: false };
  const inside = insideSite(draft, path);
  const files = new Set([...candidateFiles(inside), ...candidateFiles(`${inside}/`)]);
  const pages = [...(await allPages(queries, importId, draft)).values()];
  const bare = { ...draft, basePath: '' };
  const page = pages.find((each) => siteAddress(draft, each) === inside || files.has(publishedPath(bare, each)));
  return { page: page?.id ?? null, isHome: page !== undefined && siteAddress(draft, page) === '/' };
}
