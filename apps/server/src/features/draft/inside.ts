/** What is inside a page: its sections and parts, and what stands at a place somebody pointed at. */
import type { PageInside, Pointed } from '@fastigium/contracts/api/pages';
import { DomainError } from '@fastigium/contracts/errors';
import { candidateFiles, resolveHref } from '@fastigium/core/address';
import { anchorAt, anchors, attribute, baseHref, parentOf, parsePage, PART_NAMES, parts, sections, textPlaces, type PageDocument } from '@fastigium/core/html';
import { foldDecisions, sectionKey, writtenFrom, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { contentBytes } from '../contents.ts';
import { keptRemovals } from '../removals/kept.ts';
import { history, siteState } from './history.ts';
import { pagesAt, pagesById, type SourcePage } from './pageFiles.ts';

export interface OpenPage {
  readonly page: SourcePage;
  readonly draft: Draft;
  readonly importId: string;
  readonly bytes: Uint8Array;
}

export async function openPage(queries: Queries, site: string, id: string): Promise<OpenPage> {
  const { currentImport: importId } = await siteState(queries, site);
  if (importId === null) throw new DomainError('nothing-imported');
  const draft = foldDecisions(await history(queries, site));
  const page = (await pagesById(queries, importId, draft, [id])).get(id);
  if (!page) throw new DomainError('not-found', { what: 'such page' });
  return { page, draft, importId, bytes: await contentBytes(queries, page.hash) };
}

export async function pageInside(deps: Deps, site: string, id: string): Promise<PageInside> {
  const { draft, bytes } = await openPage(deps.db, site, id);
  const document = parsePage(bytes);
  const own = [...draft.touches.values()].filter(({ scope }) => scope.kind === 'page' && scope.page === id);
  const order = own.findLast((touch) => touch.kind === 'sections')?.order;
  const out = own.findLast((touch) => touch.kind === 'parts-out')?.parts ?? [];
  const removedHere = draft.removedSections.get(id);
  const kept = removedHere ? await keptRemovals(deps.db, site, draft) : undefined;
  const removalAt = (of: number | undefined) => { const by = of === undefined ? undefined : kept?.get(of); return of !== undefined && by ? { of, by: by.by, at: by.at } : null; };
  const found = sections(document).map(({ name, nth }) => ({ name, nth, out: removedHere?.has(sectionKey({ name, nth })) || (order?.some((ref) => ref.name === name && ref.nth === nth && ref.out) ?? false), removal: removalAt(removedHere?.get(sectionKey({ name, nth }))?.removal) }));
  const place = (section: { name: string; nth: number }) => order?.findIndex(({ name, nth }) => name === section.name && nth === section.nth) ?? -1;
  const there = new Set(parts(document).map(({ part }) => part));
  return {
    // In the order they have here; those the order does not name stay behind the one before them.
    sections: order ? inOrder(found, place) : found,
    parts: PART_NAMES.filter((part) => there.has(part)).map((part) => ({ part, out: out.includes(part) })),
    css: own.findLast((touch) => touch.kind === 'css')?.css ?? '',
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

export async function pointedAt(deps: Deps, site: string, id: string, at: { start: number; child: number | null }): Promise<Pointed> {
  const { page, bytes, importId } = await openPage(deps.db, site, id);
  const document = parsePage(bytes);
  const anchor = anchorAt(document, at.start, at.child ?? undefined);
  if (!anchor) throw new DomainError('touch-place-lost');
  const element = elementAt(document, at.start);
  if (!element) throw new DomainError('touch-place-lost');
  const text = at.child === null ? undefined : [...textPlaces(document, element)].find(({ child }) => child === at.child);
  let link: Pointed['link'] = null;
  for (let around: typeof element | undefined = element; around && !link; around = parentOf(around)) {
    const href = around.tagName === 'a' ? attribute(around, 'href') : undefined;
    const linkAnchor = href === undefined ? undefined : anchorAt(document, around.sourceCodeLocation?.startOffset ?? -1, undefined);
    if (href !== undefined && linkAnchor) link = { href, page: await pageMeant(deps.db, importId, href, page, baseHref(document)), newWindow: attribute(around, 'target') === '_blank', anchor: linkAnchor };
  }
  const src = element.tagName === 'img' ? attribute(element, 'src') : undefined;
  const meant = src === undefined ? undefined : resolveHref(src, writtenFrom(page), baseHref(document));
  return {
    anchor, text: text ? text.value.replace(/\s+/g, ' ').trim() : null, link,
    picture: src === undefined ? null : { address: meant?.kind === 'inside' ? meant.address.path : null, alt: attribute(element, 'alt') ?? null, anchor: anchorAt(document, at.start, undefined) ?? anchor },
  };
}

function elementAt(document: PageDocument, start: number) {
  for (const { element } of anchors(document)) if (element.sourceCodeLocation?.startOffset === start) return element;
  return undefined;
}

async function pageMeant(queries: Queries, importId: string, href: string, from: SourcePage, base: string | undefined): Promise<string | null> {
  const to = resolveHref(href, writtenFrom(from), base);
  if (to.kind !== 'inside') return null;
  const files = [...candidateFiles(to.address.path), ...candidateFiles(`${to.address.path}/`)];
  return (await pagesAt(queries, importId, files))[0]?.id ?? null;
}

