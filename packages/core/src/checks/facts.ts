/** What the checks of a whole site need to know of each page: read once, kept, and asked again without parsing. */
import { formatAddress, resolveHref } from '../address/index.ts';
import {
  readAttribute,
  readBaseHref,
  findCssUrls,
  decodeSource,
  fold,
  findFirstElement,
  linkPlaces,
  collectText,
} from '../html/index.ts';
import type { CheckedPage } from './check.ts';
import { isShutToSearch } from './page/noIndex.ts';

export interface LinkFact {
  readonly href: string;
  /** Normal address inside the site it leads to, with its query. */
  readonly to: string;
  readonly fragment: string | undefined;
  readonly element: string;
  readonly start: number;
  readonly end: number;
}

export interface PageFacts {
  readonly path: string;
  readonly address: string;
  readonly title: string;
  readonly description: string;
  readonly language: string;
  readonly isShut: boolean;
  /** Address path of its share picture, where it is one of the site; empty otherwise. */
  readonly shareImage: string;
  /** What a fragment can lead to: ids, and names of anchors (HTML standard, section 7.4.6.3). */
  readonly ids: readonly string[];
  /** Links inside the site, each meaning once. */
  readonly links: readonly LinkFact[];
  /** Pictures shown with how wide they are written to be. */
  readonly pictures: readonly {
    readonly to: string;
    readonly widthPx: number | undefined;
    readonly start: number;
    readonly end: number;
  }[];
}

export function gatherPageFacts(page: CheckedPage): PageFacts {
  const { document, elements, path, address } = page;
  const base = readBaseHref(document);
  const links = new Map<string, LinkFact>();
  for (const { hrefs, element, start, end } of linkPlaces(document)) {
    for (const href of hrefs) {
      const to = resolveHref(href, address, base);
      if (to.kind !== 'inside') continue;
      const key = `${formatAddress(to.address)}#${to.fragment ?? ''}`;
      if (!links.has(key))
        links.set(key, { href, to: formatAddress(to.address), fragment: to.fragment, element, start, end });
    }
  }
  const ids = new Set<string>();
  const pictures: PageFacts['pictures'][number][] = [];
  let description = '';
  let shareImage = '';
  for (const element of elements) {
    const id = readAttribute(element, 'id');
    if (id) ids.add(id);
    if (element.tagName === 'a') {
      const name = readAttribute(element, 'name');
      if (name) ids.add(name);
    }
    if (
      element.tagName === 'meta' &&
      description === '' &&
      readAttribute(element, 'name')?.toLowerCase() === 'description'
    )
      description = fold(readAttribute(element, 'content') ?? '');
    if (
      element.tagName === 'meta' &&
      shareImage === '' &&
      readAttribute(element, 'property')?.toLowerCase() === 'og:image'
    ) {
      // Whole addresses are the rule; that they are of this site shows in whether there is such a file.
      const image = resolveHref(
        (readAttribute(element, 'content') ?? '').replace(/^https?:\/\/[^/]+/i, '') || '/',
        address,
        base,
      );
      if (image.kind === 'inside') shareImage = image.address.path;
    }
    const src = element.tagName === 'img' ? readAttribute(element, 'src') : undefined;
    const to = src === undefined ? undefined : resolveHref(src, address, base);
    const span = element.sourceCodeLocation;
    if (to?.kind === 'inside' && span)
      pictures.push({
        to: to.address.path,
        widthPx: Number(readAttribute(element, 'width')) || undefined,
        start: span.startOffset,
        end: span.endOffset,
      });
  }
  const title = findFirstElement(document, 'title');
  const html = findFirstElement(document, 'html');
  return {
    path,
    address,
    title: title ? collectText(title) : '',
    description,
    language: (html && readAttribute(html, 'lang')) ?? '',
    isShut: isShutToSearch(page),
    shareImage,
    ids: [...ids],
    links: [...links.values()],
    pictures,
  };
}

/** What a style sheet refers to, as a page's facts: it has links and nothing else. */
export function gatherStyleFacts({
  path,
  address,
  bytes,
}: {
  readonly path: string;
  readonly address: string;
  readonly bytes: Uint8Array;
}): PageFacts {
  const links = new Map<string, LinkFact>();
  for (const { url, start, end } of findCssUrls(decodeSource(bytes).text)) {
    const href = url.trim();
    const to = resolveHref(href, address);
    if (to.kind !== 'inside') continue;
    const key = formatAddress(to.address);
    if (!links.has(key)) links.set(key, { href, to: key, fragment: undefined, element: 'style', start, end });
  }
  return {
    path,
    address,
    title: '',
    description: '',
    language: '',
    isShut: false,
    shareImage: '',
    ids: [],
    links: [...links.values()],
    pictures: [],
  };
}
