/** What runs in worker threads: pure work on pages, many at a time. */
import { createHash } from 'node:crypto';
import { findAddressOfFile, isPageFile, resolveHref } from '@fastigium/core/address';
import {
  checkPage,
  SheetCache,
  gatherStyleFacts,
  type CheckedResult,
  type Finding,
  type PageToCheck,
  type Mend,
} from '@fastigium/core/checks';
import { leadsTo, relink, settleEncoding, type Answer, type Relinking } from '@fastigium/core/crawl';
import {
  findCssUrls,
  decodeSource,
  findMainElement,
  parseForReading,
  parsePage,
  readDocument,
  recognise,
  collectText,
  type Anchor,
  type Heading,
  type PageDocument,
} from '@fastigium/core/html';
import { leadOf, readOwnLines, type OwnLine } from '@fastigium/core/head';
import { findMenus, type FoundItem, type FoundMenu } from '@fastigium/core/menus';
import { computeFingerprint } from '@fastigium/core/reimport';
import type { PictureSize } from '@fastigium/core/picture';
import { compilePage, type PagePlan, type SharedPlan } from '@fastigium/core/release';
import { editTouch, type Touch, type TouchedPage } from '@fastigium/core/touches';

export interface FileToRead {
  readonly path: string;
  readonly kind: 'page' | 'style' | 'other';
  readonly bytes: Uint8Array;
}

export interface InsideLink {
  /** Normal address path it leads to. */
  readonly path: string;
  readonly href: string;
  readonly element: string;
}

export interface ReadFile {
  readonly hash: string;
  readonly reading:
    | {
        readonly encoding: string;
        readonly problem: 'encoding-faulty' | 'encoding-guessed' | undefined;
        readonly title: string | undefined;
        readonly language: string | undefined;
        readonly description: string | undefined;
        readonly headings: readonly Heading[];
        readonly date: string | undefined;
        readonly ownHead: readonly OwnLine[];
        /** The first paragraph of the main text. */
        readonly lead: string;
        /** Of the main text; see the core's reimport. */
        readonly fingerprint: readonly number[];
        /** The beginning of its main text. */
        readonly text: string;
        /** One for each path, the first that leads there. */
        readonly inside: readonly InsideLink[];
        readonly insideCount: number;
        readonly outsideCount: number;
        readonly menus: readonly FoundMenu[];
      }
    | undefined;
}

export const hashSha256 = (data: Uint8Array | string): string => createHash('sha256').update(data).digest('hex');

export function readFiles(files: readonly FileToRead[]): ReadFile[] {
  return files.map(({ path, kind, bytes }) => ({
    hash: hashSha256(bytes),
    reading: kind === 'page' ? readPage(path, bytes) : kind === 'style' ? readStyle(path, bytes) : undefined,
  }));
}

function readPage(path: string, bytes: Uint8Array): ReadFile['reading'] {
  const document = parseForReading(bytes);
  const page = readDocument(document);
  const text = readMainText(document);
  const isAscii = page.encodingSource === 'guessed' && page.encoding === 'utf-8';
  return {
    encoding: page.encoding,
    problem: !page.validEncoding
      ? 'encoding-faulty'
      : page.encodingSource === 'guessed' && !isAscii
        ? 'encoding-guessed'
        : undefined,
    title: page.title,
    language: page.language,
    description: page.description,
    headings: page.headings,
    date: page.date,
    ownHead: readOwnLines(document),
    lead: leadOf(document),
    fingerprint: computeFingerprint(text),
    text: cutBeginning(text),
    ...listLinks(path, page.links, page.base),
    menus: findMenus(document, findAddressOfFile(path)).map(stripMenu),
  };
}

/** All lists of links at some places of pages, whether or not they look like menus. */
export function findListsAt(
  pages: readonly { readonly path: string; readonly bytes: Uint8Array }[],
  ways: ReadonlySet<string>,
): FoundMenu[][] {
  return pages.map(({ path, bytes }) =>
    findMenus(parseForReading(bytes), findAddressOfFile(path), ways)
      .filter(({ way }) => ways.has(way))
      .map(stripMenu),
  );
}

export function stripMenu({ way, items, mark, isBeside, opensFrame, marksBranch }: FoundMenu): FoundMenu {
  return {
    way,
    items: items.map(stripItem),
    mark,
    isBeside: isBeside === true,
    ...(opensFrame ? { opensFrame } : {}),
    marksBranch,
  };
}

export function readMainText(document: PageDocument): string {
  const main = findMainElement(document);
  return main ? collectText(main) : '';
}

/** As much of a text as matching compares. */
export function cutBeginning(text: string): string {
  return text.slice(0, KEPT_LETTERS);
}

/** Without the elements it was found as, which stay in the thread. */
function stripItem({ to, label, newWindow, isCurrent, children, form, tag }: FoundItem): FoundItem {
  return {
    to,
    label,
    newWindow,
    isCurrent,
    children: children.map(stripItem),
    ...(form === undefined ? {} : { form }),
    ...(tag === undefined ? {} : { tag }),
  };
}

function readStyle(path: string, bytes: Uint8Array): ReadFile['reading'] {
  const { text, encoding } = decodeSource(bytes);
  const links = findCssUrls(text).map(({ url }) => ({ href: url.trim(), element: CSS }));
  return {
    encoding,
    problem: undefined,
    title: undefined,
    language: undefined,
    description: undefined,
    headings: [],
    date: undefined,
    ownHead: [],
    lead: '',
    fingerprint: [],
    text: '',
    menus: [],
    ...listLinks(path, links, undefined),
  };
}

const CSS = 'css';
const KEPT_LETTERS = 1500;

function listLinks(path: string, links: readonly { href: string; element: string }[], base: string | undefined) {
  const address = findAddressOfFile(path);
  const inside = new Map<string, InsideLink>();
  const meant = new Map<string, ReturnType<typeof resolveHref>>();
  let insideCount = 0;
  let outsideCount = 0;
  for (const { href, element } of links) {
    let destination = meant.get(href);
    if (destination === undefined) meant.set(href, (destination = resolveHref(href, address, base)));
    if (destination.kind === 'outside') outsideCount += 1;
    if (destination.kind !== 'inside') continue;
    insideCount += 1;
    const to = destination.address.path;
    if (!inside.has(to)) inside.set(to, { path: to, href, element });
  }
  return { inside: [...inside.values()], insideCount, outsideCount };
}

export interface PageToCompile {
  readonly plan: PagePlan;
  readonly bytes: Uint8Array;
}

export interface CompiledFile {
  readonly path: string;
  readonly hash: string;
  readonly encoding: string;
  readonly bytes: Uint8Array;
}

export function compilePages(pages: readonly PageToCompile[], shared: SharedPlan): CompiledFile[] {
  return pages.map(({ plan, bytes }) => {
    const compiled = compilePage(plan, shared, bytes);
    return { ...compiled, hash: hashSha256(compiled.bytes) };
  });
}

/** What pages of a site are judged with, by address. */
export interface CheckedWith {
  readonly sheets: ReadonlyMap<string, Uint8Array>;
  readonly pictures: ReadonlyMap<string, PictureSize>;
  readonly ownNames: readonly string[];
}

/** Findings without what only their thread can do: a mend is made anew when somebody asks for it. */
export type SentResult = Pick<CheckedResult, 'facts'> & {
  readonly findings: readonly {
    readonly code: string;
    readonly finding: Omit<Finding, 'mend'> & {
      readonly mend?: Pick<Mend, 'label' | 'asks'>;
    };
  }[];
};

export function checkPages(pages: readonly PageToCheck[], { sheets, pictures, ownNames }: CheckedWith): SentResult[] {
  const cache = new SheetCache();
  const texts = new Map<string, string>();
  const sheetAt = (address: string) => {
    const bytes = sheets.get(address);
    if (bytes && !texts.has(address)) texts.set(address, decodeSource(bytes).text);
    return texts.get(address);
  };
  return pages.map((page) => {
    if (!isPageFile(page.path)) return { facts: gatherStyleFacts(page), findings: [] };
    const { facts, findings } = checkPage(
      page,
      { sheetAt, pictureAt: (address) => pictures.get(address), ownNames },
      cache,
    );
    return {
      facts,
      findings: findings.map(({ code, finding: { mend, ...finding } }) => ({
        code,
        finding: mend ? { ...finding, mend: { label: mend.label, asks: mend.asks } } : finding,
      })),
    };
  });
}

export interface PageToSearch {
  readonly page: TouchedPage;
  readonly bytes: Uint8Array;
}

export interface FoundTouch {
  readonly places: number;
  readonly changed: boolean;
  /** What stands where its place was, on a page that has none of it any more. */
  readonly instead: Anchor | undefined;
}

/** Places that touches mean in some pages, touch by touch and page by page. */
export function findTouches(pages: readonly PageToSearch[], touches: readonly Touch[]): FoundTouch[][] {
  return pages.map(({ page, bytes }) => {
    const document = parsePage(bytes);
    return touches.map((touch) => {
      const { places, changed } = editTouch(document, touch, page, () => '/');
      const found = places === 0 && 'place' in touch ? recognise(document, touch.place) : undefined;
      // Its way is found only when it is asked for; here it has to travel.
      return { places, changed, instead: found?.kind === 'changed' ? { ...found.place.anchor } : undefined };
    });
  });
}

/** An answer of a running site as it will be kept, and where it leads. */
export function readAnswer(answer: Answer): {
  readonly bytes: Uint8Array;
  readonly recoded: boolean;
  readonly links: readonly string[];
} {
  const settled = settleEncoding(answer);
  return { ...settled, links: leadsTo(answer, settled.bytes) };
}

export interface AnswerToRelink extends Omit<Relinking, 'fileOf'> {
  readonly bytes: Uint8Array;
  /** Addresses it refers to, and the files they are kept as. */
  readonly files: readonly (readonly [address: string, file: string])[];
}

export function relinkAnswer({ bytes, files, ...how }: AnswerToRelink): Uint8Array {
  const byAddress = new Map(files);
  return relink(bytes, { ...how, fileOf: (address) => byAddress.get(address) });
}
