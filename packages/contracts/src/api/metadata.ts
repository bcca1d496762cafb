/** Metadata: what search engines, previews and other machines read. */
import { structured } from '@fastigium/core/structured';
import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { headProof } from '../messages/headProof.ts';
import { createMessageSchema } from '../messages/schema.ts';
import { id } from '../id.ts';
import { instant, siteParams, version } from './common.ts';
import { decided } from './draft.ts';
import { headSetting } from '../decisions/head.ts';

const dataProblem = z.object({ at: z.string(), message: createMessageSchema(structured) });

export const ORIGINS = ['imported', 'site', 'branch', 'page', 'computed'] as const;
const origin = z.enum(ORIGINS);
const cell = z.object({ text: z.string(), from: origin });

export const metadataRow = z.object({
  id,
  address: z.string(),
  label: z.string(),
  depth: z.number().int(),
  isReady: z.boolean(),
  /** As they will be published; an empty text where nothing stands. */
  title: cell,
  description: cell,
  language: cell,
  shareTitle: cell,
  shareImage: cell,
  robots: cell,
  canonical: cell,
  /** The title as it is written down for this page, without what a form of titles adds. */
  ownTitle: z.string(),
  /** Lines in which the page's own tag stands and something else was set here. */
  conflicts: z.number().int(),
  /** From the page's first paragraph and heading; empty where there is nothing to suggest. */
  suggestedDescription: z.string(),
  suggestedTitle: z.string(),
});
export type MetadataRow = z.infer<typeof metadataRow>;

const setting = z.object({
  scope: headSetting.shape.scope,
  name: z.string(),
  text: z.union([z.string(), z.literal(false)]).nullable(),
  own: z.enum(['kept', 'replaced']).nullable(),
});
export type SettingRow = z.infer<typeof setting>;

export const metadata = z.object({
  version,
  /** `https://` and the main address; null while there is none, and nothing absolute can be written. */
  origin: z.string().nullable(),
  basePath: z.string(),
  siteName: z.string(),
  rows: z.array(metadataRow),
  /** For the whole site and for branches. */
  settings: z.array(setting),
  languages: z.array(z.string()),
  /** Pages that say the same in several languages, by language. */
  groups: z.array(z.array(z.object({ id, language: z.string() }))),
  icons: z.array(z.object({ path: z.string(), sizeBytes: z.number().int() })),
  /** Of the import, where nothing was set here; as they would go out, where something was. */
  files: z.object({ robots: z.string().nullable(), security: z.string().nullable(), hasImportedSitemap: z.boolean() }),
  /** What the live host gave when heads were read back after the last publish. */
  proof: z
    .object({
      release: z.number().int(),
      askedAt: instant,
      pages: z.number().int(),
      differing: z.array(z.object({ path: z.string(), problem: createMessageSchema(headProof) })),
    })
    .nullable(),
});
export type Metadata = z.infer<typeof metadata>;

export const effectiveLine = z.object({
  name: z.string(),
  text: z.string().nullable(),
  from: origin,
  own: z.array(z.string()),
  conflict: z.object({ text: z.union([z.string(), z.literal(false)]), from: origin }).nullable(),
});
export type EffectiveLineRow = z.infer<typeof effectiveLine>;
const sourceLine = z.object({ source: z.string(), name: z.string().nullable(), from: origin });

export const pageHead = z.object({
  version,
  address: z.string(),
  lines: z.array(effectiveLine),
  /** The head as its source, as it will be published and as it is live; null where the page is not live. */
  draft: z.array(sourceLine),
  live: z.array(sourceLine).nullable(),
  /** What was set for the page itself and for branches it is in. */
  settings: z.array(setting),
  share: z.object({
    title: z.string(),
    description: z.string(),
    image: z.string().nullable(),
    widthPx: z.number().int().nullable(),
    heightPx: z.number().int().nullable(),
  }),
  translations: z.array(z.object({ id, language: z.string(), address: z.string() })),
  /** Faults in its structured data. */
  dataProblems: z.array(dataProblem),
});
export type PageHead = z.infer<typeof pageHead>;

export const tableReading = z.object({
  version,
  changes: z.array(
    z.object({ page: id, address: z.string(), name: z.string(), before: z.string(), after: z.string() }),
  ),
  unknown: z.array(z.string()),
  doubled: z.array(z.string()),
  ignored: z.array(z.string()),
  rows: z.number().int(),
  encoding: z.string(),
});
export type TableReading = z.infer<typeof tableReading>;

export const metadataApi = {
  table: defineEndpoint('GET /sites/:site/metadata', {
    summary: 'Metadata of every page, and of the site',
    access: 'reviewer',
    params: siteParams,
    answer: metadata,
  }),
  page: defineEndpoint('GET /sites/:site/metadata/pages/:page', {
    summary: 'The effective head of a page, line by line, live beside draft',
    access: 'reviewer',
    params: siteParams.extend({ page: id }),
    answer: pageHead,
  }),
  csv: defineEndpoint('GET /sites/:site/metadata/table.csv', {
    summary: 'The table as CSV, for a writer',
    access: 'reviewer',
    params: siteParams,
    answer: z.never(),
    gives: 'text/csv',
  }),
  readCsv: defineEndpoint('POST /sites/:site/metadata/table/reading', {
    summary: 'What a table would change; nothing is changed',
    access: 'editor',
    params: siteParams,
    streams: 'text/csv',
    answer: tableReading,
  }),
  takeCsv: defineEndpoint('POST /sites/:site/metadata/table', {
    summary: 'A table taken in, all of it as one decision',
    access: 'editor',
    params: siteParams,
    query: z.object({ version: z.coerce.number().int().min(0) }),
    streams: 'text/csv',
    answer: decided,
    status: 201,
  }),
  checkData: defineEndpoint('POST /sites/:site/metadata/data/check', {
    summary: 'Structured data against the vocabulary',
    access: 'reviewer',
    params: siteParams,
    body: z.object({ text: z.string().max(200_000) }),
    answer: z.object({ problems: z.array(dataProblem) }),
  }),
  icons: defineEndpoint('POST /sites/:site/metadata/icons', {
    summary: 'Icons made from one picture',
    access: 'editor',
    params: siteParams,
    query: z.object({ version: z.coerce.number().int().min(0), fileName: z.string().max(255).default('') }),
    streams: 'application/octet-stream',
    answer: decided,
    status: 201,
  }),
};
