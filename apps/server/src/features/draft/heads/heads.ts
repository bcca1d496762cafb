/** Effective heads of a draft's pages, from records and settings. */
import {
  reckonEffectiveHead,
  listLanguages,
  SettingIndex,
  groupTranslatedPages,
  type Crumb,
  type EffectiveHead,
  type HeadPage,
  type HeadSite,
} from '@fastigium/core/head';
import { resolveHref } from '@fastigium/core/address';
import {
  findDraftAddress,
  isOut,
  labelTitle,
  findSiteAddress,
  reckonStandingRows,
  withRemoved,
  type Draft,
} from '@fastigium/core/site';
import type { Queries } from '../../../db/database.ts';
import { readSiteAddress as siteNames } from '../../shared/siteAddress.ts';
import { readAllPages, type SourcePage } from '../pageFiles.ts';
import { readTitleEndings } from '../prepare/situation.ts';
import { indexBranches } from './branches.ts';
import { readHeadRecords, type HeadRecord } from './records.ts';

/** What heads are made from beside the decisions; the same for every draft of an import. */
export interface HeadSources {
  readonly records: ReadonlyMap<string, HeadRecord>;
  readonly endings: readonly string[];
  /** Of the site itself, unless a name was set. */
  readonly siteName: string;
  readonly pictures: ReadonlyMap<string, { readonly widthPx: number; readonly heightPx: number }>;
}

export interface Heads {
  readonly pages: ReadonlyMap<string, SourcePage>;
  /** Those and the removed ones. */
  readonly every: ReadonlyMap<string, SourcePage>;
  readonly settings: SettingIndex;
  readonly groups: readonly (readonly { readonly id: string; readonly address: string; readonly language: string }[])[];
  readonly languages: readonly string[];
  /** Of a picture by its address, the base path included. */
  readonly pictureSize: HeadSite['pictureSize'];
  /** Pages at which branches with settings begin that hold a page, nearest first. */
  readonly branchesOf: (page: string) => readonly string[];
  /** Where a page answers, the base path included. */
  readonly addressOf: (page: string) => string | undefined;
  /** @param address where the page answers, if not at its own address: listings go on over several */
  readonly of: (page: string, address?: string) => EffectiveHead;
}

export function setsHeads({ head, icons }: Draft): boolean {
  return head.size > 0 || icons.length > 0;
}

/** `https://` and the main name; undefined while there is none. */
export async function readOrigin(queries: Queries, site: string): Promise<string | undefined> {
  const names = await siteNames(queries, site);
  return names && `https://${names.main}`;
}

export async function readHeadSources(queries: Queries, site: string, importId: string): Promise<HeadSources> {
  const { name } = await queries.one<{ name: string }>('select name from site where id = $1', [site]);
  const pictures = await queries.many<{ address: string; widthPx: number; heightPx: number }>(
    'select f.address, p.width_px as "widthPx", p.height_px as "heightPx" from source_file f join picture_size p using (hash) where f.import_id = $1 and p.width_px is not null',
    [importId],
  );
  return {
    records: await readHeadRecords(queries, site, importId),
    endings: await readTitleEndings(queries, importId),
    siteName: name,
    pictures: new Map(pictures.map(({ address, widthPx, heightPx }) => [address, { widthPx, heightPx }])),
  };
}

export async function readHeads(
  queries: Queries,
  importId: string,
  draft: Draft,
  sources: HeadSources,
  origin: string | undefined,
): Promise<Heads> {
  const pages = await readAllPages(queries, importId, withRemoved(draft));
  return deriveHeads(draft, pages, await withAssets(queries, draft, sources), origin);
}

/** Pictures added here beside those of the import. */
async function withAssets(queries: Queries, draft: Draft, sources: HeadSources): Promise<HeadSources> {
  if (draft.assets.size === 0) return sources;
  const sizes = new Map(
    (
      await queries.many<{ hash: string; widthPx: number; heightPx: number }>(
        'select hash, width_px as "widthPx", height_px as "heightPx" from picture_size where hash = any($1) and width_px is not null',
        [[...draft.assets.values()].map(({ hash }) => hash)],
      )
    ).map((row) => [row.hash, row]),
  );
  const added = [...draft.assets].flatMap(([path, { hash }]) => {
    const size = sizes.get(hash);
    return size ? [[`/${path}`, size] as const] : [];
  });
  return { ...sources, pictures: new Map([...sources.pictures, ...added]) };
}

/** The same from what is at hand: no I/O, so that its cost is its own. @param every the removed pages too: what they held is still below them */
export function deriveHeads(
  draft: Draft,
  every: ReadonlyMap<string, SourcePage>,
  { records, endings, siteName, pictures }: HeadSources,
  origin: string | undefined,
): Heads {
  const settings = new SettingIndex(draft.head);
  const pages = draft.removed.size === 0 ? every : new Map([...every].filter(([id]) => !isOut(draft, id)));
  const addresses = new Map([...every.values()].map((page) => [page.id, findSiteAddress(draft, page)]));
  const titleOf = (id: string) => labelTitle(draft.titles.get(id) ?? records.get(id)?.title ?? '', endings);
  const branchesOf = indexBranches(settings, (id) => addresses.get(id));
  const languageOf = (id: string): string => {
    const { text, replacesOwn } = settings.inForce('language', id, branchesOf(id));
    const language = records.get(id)?.language ?? '';
    return typeof text === 'string' && (language === '' || replacesOwn) ? text : language;
  };
  const shown = [...pages.values()].filter(({ id }) => !draft.notReady.has(id));
  const languages = listLanguages(
    shown.map(({ id }) => ({ language: languageOf(id), address: addresses.get(id) ?? '' })),
  );
  const groups = groupTranslatedPages(
    shown.map((page) => {
      const { text } = settings.inForce('translates', page.id, []);
      const namedBy = (kind: string) =>
        (records.get(page.id)?.own ?? []).flatMap(({ name, text: href }) => {
          const to = name.startsWith(kind)
            ? resolveHref(stripOrigin(href, origin), addresses.get(page.id) ?? '/')
            : undefined;
          return to?.kind === 'inside' ? [to.address.path] : [];
        });
      return {
        id: page.id,
        address: addresses.get(page.id) ?? '/',
        language: languageOf(page.id),
        alternates: namedBy('link:alternate:'),
        switches: namedBy('switch:'),
        translates: text === false ? '' : text,
      };
    }),
    languages,
  );
  const groupOf = new Map(groups.flatMap((group) => group.map((page) => [page.id, group] as const)));
  const ancestors = settings.names.has('breadcrumb') ? createAncestors(draft, every, addresses, titleOf) : undefined;
  const site: HeadSite = {
    settings,
    origin,
    endings,
    name: siteName,
    labelOf: (title) => labelTitle(title, endings),
    ancestorsOf: (id) => ancestors?.(id) ?? [],
    translationsOf: (id) =>
      (groupOf.get(id) ?? []).map((each) => ({ language: each.language, address: draft.basePath + each.address })),
    icons: draft.icons.flatMap(({ path, relation, attributes }) =>
      relation === undefined ? [] : [{ name: `link:${relation}`, href: `${draft.basePath}/${path}`, attributes }],
    ),
    pictureSize: (address) =>
      pictures.get(
        draft.basePath !== '' && address.startsWith(`${draft.basePath}/`)
          ? address.slice(draft.basePath.length)
          : address,
      ),
  };
  return {
    pages,
    every,
    settings,
    groups,
    languages,
    branchesOf,
    pictureSize: site.pictureSize,
    addressOf: (id) => {
      const page = pages.get(id);
      return page && findDraftAddress(draft, page);
    },
    of: (id, address) => {
      const page = pages.get(id);
      const record = records.get(id);
      const set = draft.titles.get(id);
      const input: HeadPage = {
        id,
        address: address ?? (page ? findDraftAddress(draft, page) : '/'),
        isHome: addresses.get(id) === '/',
        title: set ?? record?.title ?? '',
        isTitleSet: set !== undefined,
        language: record?.language ?? '',
        date: record?.date ?? null,
        own: record?.own ?? [],
        branches: branchesOf(id),
      };
      return reckonEffectiveHead(input, site);
    },
  };
}

/** Own links to other languages are often whole addresses of the site itself. */
function stripOrigin(href: string, origin: string | undefined): string {
  return origin !== undefined && href.startsWith(`${origin}/`) ? href.slice(origin.length) : href;
}

/** The way down to each page in the tree, the home page first. */
function createAncestors(
  draft: Draft,
  every: ReadonlyMap<string, SourcePage>,
  addresses: ReadonlyMap<string, string>,
  titleOf: (id: string) => string,
): (id: string) => Crumb[] {
  const parents = new Map(reckonStandingRows(draft, every.values()).map(({ page, parent }) => [page.id, parent]));
  const home = [...addresses].find(([id, address]) => address === '/' && !isOut(draft, id))?.[0];
  const crumb = (id: string): Crumb => ({ title: titleOf(id), address: draft.basePath + (addresses.get(id) ?? '/') });
  return (id) => {
    const out: Crumb[] = [];
    for (let at = parents.get(id) ?? null; at !== null; at = parents.get(at) ?? null)
      if (every.has(at) && at !== home && !draft.notReady.has(at)) out.unshift(crumb(at));
    return home === undefined || id === home ? out : [crumb(home), ...out];
  };
}

/** Pages whose heads are written differently in two drafts. */
export function compareHeads(before: Heads | undefined, after: Heads | undefined): string[] {
  const ids = new Set([...(before?.pages.keys() ?? []), ...(after?.pages.keys() ?? [])]);
  const text = (heads: Heads | undefined, id: string) =>
    heads?.pages.has(id) ? JSON.stringify(heads.of(id).plan) : '[]';
  return [...ids].filter((id) => text(before, id) !== text(after, id));
}
