/** All checks of a site whose files are at hand: for the command line, and the measure the server's own way is held to. */
import { findAddressOfFile, isPageFile, parseAddress } from '../address/index.ts';
import { decodeSource, findLineAndColumn } from '../html/index.ts';
import { readPictureSize, type PictureSize } from '../picture/index.ts';
import { indexRules, prove, type Rule } from '../redirects/index.ts';
import { findMediaType } from '../release/index.ts';
import type { Check, Finding, Severity } from './check.ts';
import { snag, type CheckCode, type SnagDetail } from './messages.ts';
import { checkOf } from './catalogue.ts';
import { gatherStyleFacts, type PageFacts } from './facts.ts';
import { checkPage, SheetCache } from './run.ts';
import { deadAnchor, findDeadAnchors, deadLink, findDeadLinks, type Landing } from './site/deadLinks.ts';
import { findDoubled, doubledDescription, doubledTitle } from './site/doubled.ts';
import {
  findCaseTwins,
  doubledPicture,
  judgeHeaviness,
  heavyPicture,
  isSamplePicture,
  nameCase,
  samplePicture,
  secretFile,
  judgeSecret,
} from './site/files.ts';
import { shareSmallness, smallSharePicture } from './site/heads.ts';
import { orphanPage, isShuttingAll, shutSite } from './site/reach.ts';

export interface SiteFile {
  readonly path: string;
  readonly bytes: Uint8Array;
  /** Equal for equal contents. */
  readonly hash: string;
}

export interface SurveySnag {
  readonly code: CheckCode;
  readonly severity: Severity;
  readonly file: string;
  readonly detail: SnagDetail;
  /** From 1; undefined for what concerns the whole file. */
  readonly line: number | undefined;
  readonly column: number | undefined;
  /** Of a dead link: what it was resolved to. */
  readonly resolved: string | undefined;
}

export function surveySite(files: readonly SiteFile[], rules: readonly Rule[] = []): SurveySnag[] {
  const byPath = new Map(files.map((file) => [file.path, file]));
  const byAddress = new Map(files.map((file) => [findAddressOfFile(file.path), file]));
  const sizes = new Map<string, PictureSize | undefined>();
  const pictureAt = (address: string) => {
    const file = byAddress.get(address);
    if (!file || !findMediaType(file.path).startsWith('image/')) return undefined;
    if (!sizes.has(file.path)) sizes.set(file.path, readPictureSize(file.bytes));
    return sizes.get(file.path);
  };
  const sheetAt = (address: string) => {
    const file = byAddress.get(address);
    return file && findMediaType(file.path) === 'text/css' ? decodeSource(file.bytes).text : undefined;
  };
  const sheets = new SheetCache();
  const snags: SurveySnag[] = [];
  const add = (check: Check, file: SiteFile, { detail, start }: Finding, resolved?: string) => {
    const at = start === undefined ? undefined : findLineAndColumn(decodeSource(file.bytes).text, start);
    snags.push({
      code: check.code,
      severity: check.severity,
      file: file.path,
      detail,
      line: at?.line,
      column: at?.column,
      resolved,
    });
  };
  const facts: PageFacts[] = [];
  for (const file of files) {
    if (!isPageFile(file.path)) continue;
    const { facts: read, findings } = checkPage(
      { path: file.path, address: findAddressOfFile(file.path), bytes: file.bytes },
      { sheetAt, pictureAt },
      sheets,
    );
    facts.push(read);
    for (const { code, finding } of findings) {
      const check = checkOf(code);
      if (check) add(check, file, finding);
    }
  }
  const styles = files
    .filter(({ path }) => findMediaType(path) === 'text/css')
    .map(({ path, bytes }) => gatherStyleFacts({ path, address: findAddressOfFile(path), bytes }));
  const landing = createLanding(new Set(byPath.keys()), rules);
  const ids = new Map(facts.map((page) => [page.path, new Set(page.ids)]));
  const reached = new Set<string>();
  for (const page of [...facts, ...styles]) {
    const file = byPath.get(page.path);
    if (!file) continue;
    for (const finding of findDeadLinks(page, landing))
      add(deadLink, file, finding, page.links.find(({ href }) => href === finding.detail)?.to);
    for (const finding of findDeadAnchors(page, landing, (path) => ids.get(path)))
      add(deadAnchor, file, finding, page.links.find(({ href }) => href === finding.detail)?.to);
    for (const { to } of page.links) {
      const there = landing(to);
      if (there && there !== 'elsewhere' && there.file !== page.path) reached.add(there.file);
    }
  }
  for (const [check, pick] of [
    [doubledTitle, (page: PageFacts) => page.title],
    [doubledDescription, (page: PageFacts) => page.description],
  ] as const) {
    for (const [value, paths] of findDoubled(facts.map((page) => [page.path, pick(page)] as const)))
      for (const path of paths) {
        const file = byPath.get(path);
        if (file) add(check, file, { detail: value });
      }
  }
  for (const page of facts) {
    const file = byPath.get(page.path);
    if (file && page.address !== '/' && !page.path.endsWith('404.html') && !reached.has(page.path))
      add(orphanPage, file, { detail: page.title || page.address });
  }
  for (const [image, pages] of groupByShareImage(facts)) {
    const file = byPath.get(pages[0] ?? '');
    const small = shareSmallness(pictureAt(image));
    if (file && small !== undefined)
      add(smallSharePicture, file, { detail: snag('share-small', { picture: image, ...small }) });
  }
  findFileSnags(files, facts, pictureAt, add);
  const robots = byPath.get('robots.txt');
  if (robots && isShuttingAll(decodeSource(robots.bytes).text)) add(shutSite, robots, { detail: snag('everyone-out') });
  const shown = facts.filter(({ path }) => !path.endsWith('404.html'));
  const first = shown[0] && byPath.get(shown[0].path);
  if (first && shown.length > 1 && shown.every(({ isShut }) => isShut))
    add(shutSite, first, { detail: snag('noindex-everywhere') });
  return snags;
}

/** Share pictures with the pages that have them. */
function groupByShareImage(facts: readonly PageFacts[]): Map<string, string[]> {
  const out = new Map<string, string[]>();
  for (const { shareImage, path } of facts)
    if (shareImage !== '') out.set(shareImage, [...(out.get(shareImage) ?? []), path]);
  return out;
}

/** Where addresses end up over files and rules at hand; asked once each. */
export function createLanding(files: ReadonlySet<string>, rules: readonly Rule[]): Landing {
  const index = indexRules(rules);
  const known = new Map<string, ReturnType<Landing>>();
  return (address) => {
    if (known.has(address)) return known.get(address);
    const parsed = parseAddress(address);
    const end = parsed.ok ? prove(parsed.address, files, index).end : undefined;
    const there =
      end?.kind === 'page' ? { file: end.file } : end?.kind === 'outside' ? ('elsewhere' as const) : undefined;
    known.set(address, there);
    return there;
  };
}

function findFileSnags(
  files: readonly SiteFile[],
  facts: readonly PageFacts[],
  pictureAt: (address: string) => PictureSize | undefined,
  add: (check: Check, file: SiteFile, finding: Finding) => void,
): void {
  const widths = new Map<string, number[]>();
  for (const { pictures } of facts)
    for (const { to, widthPx } of pictures)
      if (widthPx !== undefined) widths.set(to, [...(widths.get(to) ?? []), widthPx]);
  const twins = findCaseTwins(files.map(({ path }) => path));
  const pictures = files.filter(({ path }) => findMediaType(path).startsWith('image/'));
  const sameContent = findDoubled(
    pictures.filter(({ bytes }) => bytes.length > 0).map(({ path, hash }) => [path, hash] as const),
  );
  for (const file of files) {
    const kind = judgeSecret(file.path);
    if (kind !== undefined) add(secretFile, file, { detail: kind });
    const others = twins.get(file.path);
    if (others) add(nameCase, file, { detail: others.join(', ') });
  }
  for (const file of pictures) {
    const address = findAddressOfFile(file.path);
    if (isSamplePicture(file.path)) add(samplePicture, file, { detail: file.path.split('/').at(-1) ?? '' });
    const heavy = judgeHeaviness(file.bytes.length, pictureAt(address), widths.get(address) ?? []);
    if (heavy !== undefined) add(heavyPicture, file, { detail: heavy });
    const same = sameContent.get(file.hash);
    if (same && same[0] === file.path) add(doubledPicture, file, { detail: same.slice(1).join(', ') });
  }
}
