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
import { findDraftAddress, labelTitle, reckonStandingRows, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { readContent } from '../shared/contents.ts';
import { readHeads, readHeadSources, readOrigin, type Heads, type HeadSources } from '../draft/heads/heads.ts';
import { ROBOTS, writeRobotsTxt, SECURITY } from '../draft/heads/siteFiles.ts';
import { readLatestDraft, readSiteState } from '../draft/history.ts';
import { readDraftReadings, type DraftReading } from '../draft/readings.ts';

export interface DraftHeads {
  readonly version: number;
  readonly importId: string;
  readonly draft: Draft;
  readonly heads: Heads;
  readonly sources: HeadSources;
  readonly origin: string | undefined;
}

/** Heads of the draft as it stands, from records: nothing has to be compiled for them. */
export async function readDraftHeads(queries: Queries, site: string): Promise<DraftHeads> {
  const { currentImport: importId, version } = await readSiteState(queries, site);
  if (importId === null) throw new DomainError('nothing-imported');
  const draft = await readLatestDraft(queries, site);
  const origin = await readOrigin(queries, site);
  const sources = await readHeadSources(queries, site, importId);
  return {
    version,
    importId,
    draft,
    origin,
    sources,
    heads: await readHeads(queries, importId, draft, sources, origin),
  };
}

export async function readMetadata(deps: Deps, site: string): Promise<Metadata> {
  const { db } = deps;
  const readings = await readDraftReadings(deps, site);
  const read = await readDraftHeads(db, site);
  const { version, draft, heads, sources, origin, importId } = read;
  return {
    version,
    origin: origin ?? null,
    basePath: draft.basePath,
    siteName: sources.siteName,
    rows: reckonStandingRows(draft, heads.every.values()).flatMap(({ page, depth }) =>
      page.file ? [writeRow(read, page.id, depth, readings.get(page.id))] : [],
    ),
    settings: [...draft.head.values()].filter(({ scope }) => scope.kind !== 'page').map(describeSetting),
    languages: [...heads.languages],
    groups: heads.groups.map((group) => group.map(({ id, language }) => ({ id, language }))),
    icons: draft.icons.map(({ path, sizeBytes }) => ({ path, sizeBytes })),
    files: await readMachineFiles(db, importId, draft, origin),
    proof: await readLastProof(db, site),
  };
}

export function describeSetting({ scope, name, text, own: ownText }: HeadSetting): SettingRow {
  return { scope, name, text: text ?? null, own: ownText ?? null };
}

const readCell = ({ lines }: EffectiveHead, name: string) => {
  const line = lines.find((each) => each.name === name);
  return { text: line?.text ?? '', from: (line?.from ?? 'imported') satisfies Origin };
};

function writeRow(
  { draft, heads, sources }: DraftHeads,
  id: string,
  depth: number,
  reading: DraftReading | undefined,
): MetadataRow {
  const head = heads.of(id);
  const record = sources.records.get(id);
  const page = heads.pages.get(id);
  const ownTitle = draft.titles.get(id) ?? record?.title ?? '';
  const description = readCell(head, 'meta:description');
  const heading = suggestTitle(reading?.headings[0] ?? record?.heading ?? '');
  const suggestion = suggestDescription(reading?.lead ?? record?.lead ?? '');
  return {
    id,
    depth,
    address: page ? findDraftAddress(draft, page) : '',
    label: labelTitle(ownTitle, sources.endings),
    isReady: !draft.notReady.has(id),
    ownTitle,
    title: readCell(head, 'title'),
    description,
    language: readCell(head, 'language'),
    shareTitle: readCell(head, 'meta:og:title'),
    shareImage: readCell(head, 'meta:og:image'),
    robots: readCell(head, 'meta:robots'),
    canonical: readCell(head, 'link:canonical'),
    conflicts: head.lines.filter(({ conflict }) => conflict !== undefined).length,
    suggestedDescription: suggestion === description.text ? '' : suggestion,
    suggestedTitle: heading === labelTitle(ownTitle, sources.endings) ? '' : heading,
  };
}

async function readMachineFiles(
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
    return hash === undefined ? null : decodeSource(await readContent(queries, hash)).text.slice(0, 100_000);
  };
  const security = draft.head.get('everywhere security.txt')?.text;
  return {
    robots: writeRobotsTxt(draft, origin) ?? (await textOf(ROBOTS)),
    security: typeof security === 'string' ? security : await textOf(SECURITY),
    hasImportedSitemap: imported.has('sitemap.xml'),
  };
}

async function readLastProof(queries: Queries, site: string): Promise<Metadata['proof']> {
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
export function listTablePages({ heads, draft, sources }: DraftHeads): TablePage[] {
  return [...heads.pages.values()]
    .filter(({ id }) => !draft.notReady.has(id))
    .map((page): TablePage => {
      const head = heads.of(page.id);
      const text = (name: string) => readCell(head, name).text;
      return {
        id: page.id,
        address: findDraftAddress(draft, page),
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
