/** What runs in worker threads: pure work on pages, many at a time. */
import { createHash } from 'node:crypto';
import { addressOfFile, resolveHref } from '@fastigium/core/address';
import { cssUrls, decodeSource, readPage, type Heading } from '@fastigium/core/html';
import { compilePage, movedUnder } from '@fastigium/core/release';
import { emptyDraft, type Draft } from '@fastigium/core/site';

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
  readonly reading: {
    readonly encoding: string;
    readonly problem: 'encoding-faulty' | 'encoding-guessed' | undefined;
    readonly title: string | undefined;
    readonly language: string | undefined;
    readonly description: string | undefined;
    readonly headings: readonly Heading[];
    /** One for each path, the first that leads there. */
    readonly inside: readonly InsideLink[];
    readonly insideCount: number;
    readonly outsideCount: number;
  } | undefined;
}

export const sha256 = (data: Uint8Array | string): string => createHash('sha256').update(data).digest('hex');

export function readFiles(files: readonly FileToRead[]): ReadFile[] {
  return files.map(({ path, kind, bytes }) => ({
    hash: sha256(bytes),
    reading: kind === 'page' ? pageReading(path, bytes) : kind === 'style' ? styleReading(path, bytes) : undefined,
  }));
}

function pageReading(path: string, bytes: Uint8Array): ReadFile['reading'] {
  const page = readPage(bytes);
  const isAscii = page.encodingSource === 'guessed' && page.encoding === 'utf-8';
  return {
    encoding: page.encoding,
    problem: !page.validEncoding ? 'encoding-faulty' : page.encodingSource === 'guessed' && !isAscii ? 'encoding-guessed' : undefined,
    title: page.title,
    language: page.language,
    description: page.description,
    headings: page.headings,
    ...linksOf(path, page.links, page.base),
  };
}

function styleReading(path: string, bytes: Uint8Array): ReadFile['reading'] {
  const { text, encoding } = decodeSource(bytes);
  const links = cssUrls(text).map(({ url }) => ({ href: url.trim(), element: CSS }));
  return {
    encoding, problem: undefined, title: undefined, language: undefined, description: undefined, headings: [],
    ...linksOf(path, links, undefined),
  };
}

const CSS = 'css';

function linksOf(path: string, links: readonly { href: string; element: string }[], base: string | undefined) {
  const address = addressOfFile(path);
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
  readonly id: string;
  readonly sourcePath: string;
  readonly bytes: Uint8Array;
  readonly title: string | undefined;
  readonly address: string | undefined;
}

export interface CompiledFile {
  readonly path: string;
  readonly hash: string;
  readonly encoding: string;
  readonly bytes: Uint8Array;
}

/** @param moves see movedAddresses in the core. */
export function compilePages(pages: readonly PageToCompile[], moves: ReadonlyMap<string, string>, basePath: string): CompiledFile[] {
  const movedTo = movedUnder(basePath, moves);
  return pages.map(({ id, sourcePath, bytes, title, address }) => {
    const draft: Draft = {
      ...emptyDraft, basePath,
      titles: new Map(title === undefined ? [] : [[id, title]]),
      addresses: new Map(address === undefined ? [] : [[id, address]]),
    };
    const compiled = compilePage(draft, { id, sourcePath }, bytes, movedTo);
    return { ...compiled, hash: sha256(compiled.bytes) };
  });
}
