/** The Metadata station's table, and what is set for the site. */
import type { HeadProofMessage } from '@fastigium/contracts/messages/headProof';
import type { Metadata, MetadataRow, SettingRow } from '@fastigium/contracts/api/metadata';
import { DomainError } from '@fastigium/contracts/errors';
import {
  suggestDescription,
  suggestTitle,
  type EffectiveHead,
  type HeadSetting,
  type Origin,
  type TablePage,
} from '@fastigium/core/head';
import { decodeSource } from '@fastigium/core/html';
import { draftAddress, labelOf, standingRows, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { contentBytes } from '../shared/contents.ts';
import { headsOf, headSources, originOf, type Heads, type HeadSources } from '../draft/heads/heads.ts';
import { ROBOTS, robotsText, SECURITY } from '../draft/heads/siteFiles.ts';
import { latestDraft, siteState } from '../draft/history.ts';
import { draftReadings, type DraftReading } from '../draft/readings.ts';

export interface DraftHeads {
  readonly version: number;
  readonly importId: string;
  readonly draft: Draft;
  readonly heads: Heads;
  readonly sources: HeadSources;
  readonly origin: string | undefined;
}

/** Heads of the draft as it stands, from records: nothing has to be compiled for them. */
export async function draftHeads(queries: Queries, site: string): Promise<DraftHeads> {
  const { currentImport: importId, version } = await siteState(queries, site);
  if (importId === null) throw new DomainError('nothing-imported');
  const draft = await latestDraft(queries, site);
  const origin = await originOf(queries, site);
  const sources = await headSources(queries, site, importId);
  return { version, importId, draft, origin, sources, heads: await headsOf(queries, importId, draft, sources, origin) };
}

export async function metadataTable(deps: Deps, site: string): Promise<Metadata> {
  const { db } = deps;
  const readings = await draftReadings(deps, site);
  const read = await draftHeads(db, site);
  const { version, draft, heads, sources, origin, importId } = read;
  return {
    version,
    origin: origin ?? null,
    basePath: draft.basePath,
    siteName: sources.siteName,
    rows: standingRows(draft, heads.every.values()).flatMap(({ page, depth }) =>
      page.file ? [rowOf(read, page.id, depth, readings.get(page.id))] : [],
    ),
    settings: [...draft.head.values()].filter(({ scope }) => scope.kind !== 'page').map(settingRow),
    languages: [...heads.languages],
    groups: heads.groups.map((group) => group.map(({ id, language }) => ({ id, language }))),
    icons: draft.icons.map(({ path, sizeBytes }) => ({ path, sizeBytes })),
    files: await machineFiles(db, importId, draft, origin),
    proof: await lastProof(db, site),
  };
}

export function settingRow({ scope, name, text, own: ownText }: HeadSetting): SettingRow {
  return { scope, name, text: text ?? null, own: ownText ?? null };
}

const cellOf = ({ lines }: EffectiveHead, name: string) => {
  const line = lines.find((each) => each.name === name);
  return { text: line?.text ?? '', from: (line?.from ?? 'imported') satisfies Origin };
};

function rowOf(
  { draft, heads, sources }: DraftHeads,
  id: string,
  depth: number,
  reading: DraftReading | undefined,
): MetadataRow {
  const head = heads.of(id);
  const record = sources.records.get(id);
  const page = heads.pages.get(id);
  const ownTitle = draft.titles.get(id) ?? record?.title ?? '';
  const description = cellOf(head, 'meta:description');
  const heading = suggestTitle(reading?.headings[0] ?? record?.heading ?? '');
  const suggestion = suggestDescription(reading?.lead ?? record?.lead ?? '');
  return {
    id,
    depth,
    address: page ? draftAddress(draft, page) : '',
    label: labelOf(ownTitle, sources.endings),
    isReady: !draft.notReady.has(id),
    ownTitle,
    title: cellOf(head, 'title'),
    description,
    language: cellOf(head, 'language'),
    shareTitle: cellOf(head, 'meta:og:title'),
    shareImage: cellOf(head, 'meta:og:image'),
    robots: cellOf(head, 'meta:robots'),
    canonical: cellOf(head, 'link:canonical'),
    conflicts: head.lines.filter(({ conflict }) => conflict !== undefined).length,
    suggestedDescription: suggestion === description.text ? '' : suggestion,
    suggestedTitle: heading === labelOf(ownTitle, sources.endings) ? '' : heading,
  };
}

async function machineFiles(
  queries: Queries,
  importId: string,
  draft: Draft,
  origin: string | undefined,
): Promise<Metadata['files']> {
  const imported = new Map(
    (
      await queries.many<{ path: string; hash: string }>(
        `select path, hash from source_file where import_id = $1 and path in ($2, $3, 'sitemap.xml')`,
        [importId, ROBOTS, SECURITY],
      )
    ).map(({ path, hash }) => [path, hash]),
  );
  const textOf = async (path: string) => {
    const hash = imported.get(path);
    return hash === undefined ? null : decodeSource(await contentBytes(queries, hash)).text.slice(0, 100_000);
  };
  const security = draft.head.get('everywhere security.txt')?.text;
  return {
    robots: robotsText(draft, origin) ?? (await textOf(ROBOTS)),
    security: typeof security === 'string' ? security : await textOf(SECURITY),
    hasImportedSitemap: imported.has('sitemap.xml'),
  };
}

async function lastProof(queries: Queries, site: string): Promise<Metadata['proof']> {
  const rows = await queries.many<{ path: string; problem: HeadProofMessage | null; askedAt: Date; release: number }>(
    'select p.path, p.message as problem, p.asked_at as "askedAt", r.number as release from head_proof p join release r on r.id = p.release_id where p.site_id = $1 order by p.asked_at desc',
    [site],
  );
  const [last] = rows;
  if (!last) return null;
  const now = rows.filter(({ release }) => release === last.release);
  return {
    release: last.release,
    askedAt: last.askedAt.toISOString(),
    pages: now.length,
    differing: now.flatMap(({ path, problem }) => (problem === null ? [] : [{ path, problem }])),
  };
}

/** Rows for a writer, of pages that are published. */
export function tablePages({ heads, draft, sources }: DraftHeads): TablePage[] {
  return [...heads.pages.values()]
    .filter(({ id }) => !draft.notReady.has(id))
    .map((page): TablePage => {
      const head = heads.of(page.id);
      const text = (name: string) => cellOf(head, name).text;
      return {
        id: page.id,
        address: draftAddress(draft, page),
        values: {
          title: draft.titles.get(page.id) ?? sources.records.get(page.id)?.title ?? '',
          'meta:description': text('meta:description'),
          language: text('language'),
          'meta:og:title': text('meta:og:title'),
          'meta:og:image': text('meta:og:image'),
          'meta:robots': text('meta:robots'),
          'link:canonical': text('link:canonical'),
        },
      };
    })
    .sort((a, b) => (a.address < b.address ? -1 : 1));
}
