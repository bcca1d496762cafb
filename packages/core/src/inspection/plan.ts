/** Which addresses of a release are asked for, and which of its files each has to give. */
import { findAddressOfFile, isPageFile, splitAddress } from '../address/index.ts';
import { prove, type Rule, type RuleIndex } from '../redirects/index.ts';
import type { ManifestEntry } from '../release/index.ts';
import type { Aspect } from './findings.ts';

export interface Question {
  readonly aspect: Extract<Aspect, 'home' | 'pages' | 'files' | 'machines'>;
  readonly address: string;
  readonly entry: ManifestEntry;
}

export interface InspectionPlan {
  readonly questions: readonly Question[];
  /** Files that are not asked for, since a sample of their like is. */
  readonly unasked: number;
  /** An address that must find nothing; undefined where every address finds something. */
  readonly nowhere: string | undefined;
}

/** Assets asked for, of all; pages are all asked for. */
export const MOST_FILES = 200;

/**
 * @param files the release's files by path
 * @param index its rules, as a host reads them
 * @param rules the same in their order
 * @param basePath the folder the site stands under; empty at the root
 * @param seed any text; another one samples other files and asks for another address that must find nothing
 */
export function planInspection(
  files: ReadonlyMap<string, ManifestEntry>,
  index: RuleIndex,
  rules: readonly Rule[],
  basePath: string,
  seed: string,
): InspectionPlan {
  // A page published without its ending answers at the address a rule says.
  const named = new Map(
    rules.flatMap(({ status, from, to }) => (status === 200 && to !== undefined ? [[to, from] as const] : [])),
  );
  const home = `${basePath}/`;
  const [pages, machines, assets]: [Question[], Question[], Question[]] = [[], [], []];
  for (const entry of files.values()) {
    if (isNotFoundPage(entry.path)) continue;
    const plain = findAddressOfFile(entry.path);
    const address = named.get(plain) ?? plain;
    if (isPageFile(entry.path)) pages.push({ aspect: address === home ? 'home' : 'pages', address, entry });
    else if (isForMachines(entry.path)) machines.push({ aspect: 'machines', address, entry });
    else assets.push({ aspect: 'files', address, entry });
  }
  const sampled = drawSample(assets, MOST_FILES, seed);
  // Two files may have one address; only the first of them answers.
  const answering = [...pages, ...machines, ...sampled].filter(({ address, entry }) => {
    const { hops, end } = prove(splitAddress(address), files, index);
    return hops.length === 1 && end.kind === 'page' && end.file === entry.path;
  });
  const order = { home: 0, pages: 1, machines: 2, files: 3 } as const;
  const nowhere = [`${home}nothing-is-here-${seed.slice(0, 8)}/`].find(
    (address) => prove(splitAddress(address), files, index).end.kind === 'missing',
  );
  return {
    questions: answering.sort((a, b) => order[a.aspect] - order[b.aspect] || (a.address < b.address ? -1 : 1)),
    unasked: assets.length - sampled.length,
    nowhere,
  };
}

export const isNotFoundPage = (path: string): boolean => path === '404.html' || path.endsWith('/404.html');

/** Files machines ask for by name: RFC 9309 section 2.3, the sitemaps protocol, and feeds. */
const isForMachines = (path: string): boolean =>
  /(^|\/)(robots\.txt|sitemap[^/]*\.xml|feed\.xml|atom\.xml|rss\.xml|manifest\.webmanifest|security\.txt)$/.test(path);

/**
 * Spread evenly over all by a hash of seed and address, so that each release asks for others and none is left out
 * for good.
 */
export function drawSample<T extends { readonly address: string }>(all: readonly T[], most: number, seed: string): T[] {
  if (all.length <= most) return [...all];
  return all
    .map((each) => [hash(`${seed} ${each.address}`), each] as const)
    .sort((a, b) => a[0] - b[0])
    .slice(0, most)
    .map(([, each]) => each);
}

/** FNV-1a, 32 bits (draft-eastlake-fnv), with a last mixing step so that neighbouring texts fall far apart. */
function hash(text: string): number {
  let value = 0x811c9dc5;
  for (let at = 0; at < text.length; at += 1) value = Math.imul(value ^ text.charCodeAt(at), 0x01000193);
  value = Math.imul(value ^ (value >>> 16), 0x85ebca6b);
  return (value ^ (value >>> 13)) >>> 0;
}
