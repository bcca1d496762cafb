/** A touch as edits of one page. */
import { formatAddress, relativiseReference, resolveHref } from '../address/index.ts';
import {
  listAnchors,
  readAttribute,
  readBaseHref,
  walkElements,
  escapeAttribute,
  escapeText,
  findFirstElement,
  findHeadEnd,
  findHeadOpening,
  findHeadStart,
  linkPlaces,
  findMainElement,
  findParts,
  recognise,
  recogniseAll,
  findSectionNamed,
  findSections,
  collectText,
  type Anchor,
  type Edit,
  type Element,
  type PageDocument,
} from '../html/index.ts';
import { arrangeSections } from './arrange.ts';
import type { LinkTarget, Touch } from './touch.ts';

export interface TouchedPage {
  readonly id: string;
  /** Where its source says it stands, and where it will answer. */
  readonly before: string;
  readonly after: string;
}

/** Attributes an element is to have; null for none. Several touches may speak of one element, so they are written together. */
export interface AttributeValues {
  readonly element: Element;
  readonly values: Readonly<Record<string, string | null>>;
}

export interface TouchOutcome {
  readonly edits: readonly Edit[];
  readonly attributes: readonly AttributeValues[];
  /** Places in the page that the touch means. */
  readonly places: number;
  /** True where something else stands at its place now: the page was changed elsewhere. */
  readonly changed: boolean;
}

/** @param hrefOf the address a target has in the draft, without a fragment; undefined where it is gone */
export function editTouch(
  document: PageDocument,
  touch: Touch,
  page: TouchedPage,
  hrefOf: (target: LinkTarget) => string | undefined,
): TouchOutcome {
  switch (touch.kind) {
    case 'text': {
      const { places, changed } = findPlaces(document, touch, touch.place, page);
      return {
        places: places.length,
        changed,
        attributes: [],
        edits: places.flatMap(({ text }) =>
          text ? [{ start: text.start, end: text.end, text: escapeText(keepSpace(text.value, touch.to)) }] : [],
        ),
      };
    }
    case 'attributes': {
      const { places, changed } = findPlaces(document, touch, touch.place, page);
      return {
        places: places.length,
        changed,
        edits: [],
        attributes: places.map(({ element }) => ({ element, values: touch.set as Record<string, string | null> })),
      };
    }
    case 'link': {
      const isElsewhere = touch.leads !== undefined && !(touch.scope.kind === 'page' && touch.scope.page === page.id);
      const { places, changed } = isElsewhere
        ? { places: findLinksLike(document, touch, page), changed: false }
        : findPlaces(document, touch, touch.place, page);
      return {
        places: places.length,
        changed,
        edits: [],
        attributes: places.map(({ element }) => ({
          element,
          values: linkAttributes(document, element, touch, page, hrefOf),
        })),
      };
    }
    case 'picture':
      return editPicture(document, touch, page);
    case 'sections': {
      const { lost, kept, out } = arrangeSections(document, touch.order);
      return { ...NOTHING, places: kept.length + out.length > 0 && lost.length < touch.order.length ? 1 : 0 };
    }
    case 'parts-out': {
      const spans = findParts(document).filter(({ part }) => touch.parts.includes(part));
      return { ...NOTHING, places: spans.length, edits: spans.map(({ start, end }) => ({ start, end, text: '' })) };
    }
    case 'css': {
      const at = findHeadEnd(document);
      return {
        ...NOTHING,
        places: 1,
        edits:
          touch.css.trim() === '' ? [] : [{ start: at, end: at, text: `<style>\n${touch.css.trim()}\n</style>\n` }],
      };
    }
    case 'embed':
      return editEmbed(document, touch, page, hrefOf);
    case 'section':
      return editSection(document, touch);
    case 'head':
      return editHeadLine(document, touch);
  }
}

const NOTHING: TouchOutcome = { edits: [], attributes: [], places: 0, changed: false };

type Anchored = ReturnType<typeof recogniseAll>;

/** On the page it was made on a touch means one place; elsewhere in its scope, every place like it. */
function findPlaces(
  document: PageDocument,
  touch: Touch,
  anchor: Anchor,
  page: TouchedPage,
): { places: Anchored; changed: boolean } {
  if (touch.scope.kind === 'page' && touch.scope.page === page.id) {
    const found = recognise(document, anchor);
    return { places: found.kind === 'found' ? [found.place] : [], changed: found.kind === 'changed' };
  }
  return { places: recogniseAll(document, anchor), changed: false };
}

/** Where a reference of a page leads, in one spelling; undefined for what leads nowhere. */
export function resolveLed(href: string, page: string, base: string | undefined): string | undefined {
  const to = resolveHref(href, page, base);
  if (to.kind === 'outside') return to.url;
  if (to.kind !== 'inside') return undefined;
  const path = to.address.path.replace(/(^|\/)index\.html?$/i, '$1');
  // A folder answers without its last slash as well.
  const bare = path === '/' ? path : path.replace(/\/$/, '');
  return formatAddress({ ...to.address, path: bare }) + (to.fragment === undefined ? '' : `#${to.fragment}`);
}

/** Links with the same words that lead to the same place, however they spell it. */
function findLinksLike(document: PageDocument, touch: LinkTouch, page: TouchedPage): Anchored {
  const base = readBaseHref(document);
  const words = touch.place.mark.replace(/^\S* ?/, '');
  return [...listAnchors(document)].filter(({ element, anchor }) => {
    if (anchor.what !== 'element' || element.tagName !== 'a') return false;
    const href = readAttribute(element, 'href');
    return href !== undefined && collectText(element) === words && resolveLed(href, page.before, base) === touch.leads;
  });
}

/** White space around the text belongs to the page's own layout. */
function keepSpace(before: string, to: string): string {
  const [lead] = /^\s*/.exec(before) ?? [''];
  const [trail] = /\s*$/.exec(before) ?? [''];
  return lead + to.trim() + trail;
}

type LinkTouch = Extract<Touch, { kind: 'link' }>;

function linkAttributes(
  document: PageDocument,
  element: Element,
  touch: LinkTouch,
  page: TouchedPage,
  hrefOf: (target: LinkTarget) => string | undefined,
): Record<string, string | null> {
  const out: Record<string, string | null> = {};
  const address = touch.target && hrefOf(touch.target);
  if (touch.target && address !== undefined) {
    const fragment = touch.target.kind === 'page' && touch.target.fragment ? `#${touch.target.fragment}` : '';
    const written = readAttribute(element, 'href') ?? '';
    const isRelative =
      touch.target.kind !== 'url' &&
      readBaseHref(document) === undefined &&
      !/^[/\\]|^[a-z][a-z0-9+.-]*:/i.test(written) &&
      written !== '';
    out['href'] = (isRelative ? relativiseReference(page.after, address) : address) + fragment;
  }
  if (touch.newWindow === undefined) return out;
  // A page opened this way could reach back to the one that opened it (HTML standard, section 4.6.7.13, noopener).
  const rel = (readAttribute(element, 'rel') ?? '').split(/\s+/).filter((word) => word !== '' && word !== 'noopener');
  const withNoopener = touch.newWindow ? [...rel, 'noopener'] : rel;
  return {
    ...out,
    target: touch.newWindow ? '_blank' : null,
    rel: withNoopener.length > 0 ? withNoopener.join(' ') : null,
  };
}

type PictureTouch = Extract<Touch, { kind: 'picture' }>;

/** The references themselves follow with all others of the page; here is what has to change beside them. */
function editPicture(document: PageDocument, touch: PictureTouch, page: TouchedPage): TouchOutcome {
  const base = readBaseHref(document);
  const attributes: AttributeValues[] = [];
  for (const element of walkElements(document.root)) {
    if (element.tagName !== 'img') continue;
    const src = readAttribute(element, 'src');
    const meant = src === undefined ? undefined : resolveHref(src, page.before, base);
    if (meant?.kind !== 'inside' || meant.address.path !== touch.from) continue;
    const [width, height] = [Number(readAttribute(element, 'width')), Number(readAttribute(element, 'height'))];
    const set: Record<string, string> = {};
    if (touch.alt !== undefined) set['alt'] = touch.alt;
    if (touch.size && width > 0 && height > 0)
      set['height'] = String(Math.round((width * touch.size.heightPx) / touch.size.widthPx));
    attributes.push({ element, values: set });
  }
  // Sizes in a srcset, backgrounds of single elements and posters are references to it as well.
  let places = 0;
  for (const { hrefs } of linkPlaces(document)) {
    for (const href of hrefs) {
      const meant = resolveHref(href, page.before, base);
      if (meant.kind === 'inside' && meant.address.path === touch.from) places += 1;
    }
  }
  return { ...NOTHING, attributes, places };
}

type EmbedTouch = Extract<Touch, { kind: 'embed' }>;

function editEmbed(
  document: PageDocument,
  touch: EmbedTouch,
  page: TouchedPage,
  hrefOf: (target: LinkTarget) => string | undefined,
): TouchOutcome {
  const address = hrefOf({ kind: 'file', address: touch.file });
  const all = findSections(document);
  const after = touch.after && findSectionNamed(document, touch.after);
  const end = after?.end ?? all.at(-1)?.end ?? findMainElement(document)?.sourceCodeLocation?.endTag?.startOffset;
  if (address === undefined || end === undefined || (touch.after && !after)) return NOTHING;
  const href = escapeAttribute(
    readBaseHref(document) === undefined ? relativiseReference(page.after, address) : address,
  );
  const label = escapeText(touch.label);
  const link = `<p><a href="${href}">${label}</a></p>`;
  // Inside, for those whose browser shows no such document (HTML standard, section 4.8.7).
  const shown =
    touch.mediaType === 'application/pdf'
      ? `\n<object data="${href}" type="application/pdf" style="width: 100%; height: 40rem"></object>`
      : '';
  return { edits: [{ start: end, end, text: `${shown}\n${link}` }], attributes: [], places: 1, changed: false };
}

type SectionTouch = Extract<Touch, { kind: 'section' }>;

function editSection(document: PageDocument, { html, after }: SectionTouch): TouchOutcome {
  const all = findSections(document);
  const before = after && findSectionNamed(document, after);
  const at = after
    ? before?.end
    : (all[0]?.start ?? findMainElement(document)?.sourceCodeLocation?.startTag?.endOffset);
  if (at === undefined) return NOTHING;
  return { ...NOTHING, edits: [{ start: at, end: at, text: after ? `\n${html}` : `${html}\n` }], places: 1 };
}

type HeadTouch = Extract<Touch, { kind: 'head' }>;

function editHeadLine(document: PageDocument, { line, value }: HeadTouch): TouchOutcome {
  const insert = (at: number, text: string): TouchOutcome => ({
    ...NOTHING,
    edits: [{ start: at, end: at, text }],
    places: 1,
  });
  if (line === 'charset') return insert(findHeadOpening(document), `<meta charset="${escapeAttribute(value)}">`);
  if (line === 'viewport')
    return insert(findHeadStart(document), `<meta name="viewport" content="${escapeAttribute(value)}">`);
  const html = findFirstElement(document, 'html');
  if (html?.sourceCodeLocation?.startTag)
    return { ...NOTHING, attributes: [{ element: html, values: { lang: value } }], places: 1 };
  // A page without the tag still has the element; written where the parser begins it, it takes the attribute.
  return insert(findHeadOpening(document), `<html lang="${escapeAttribute(value)}">`);
}

/** The files shown instead of others in a page, by their addresses inside the site, for its references to follow. */
export function listSwaps(touches: readonly Touch[]): Map<string, string> {
  const out = new Map<string, string>();
  for (const touch of touches) {
    if (touch.kind !== 'picture') continue;
    // What was swapped before and is swapped again goes on to the last one.
    for (const [from, to] of out) if (to === touch.from) out.set(from, touch.to);
    out.set(touch.from, touch.to);
  }
  return out;
}
