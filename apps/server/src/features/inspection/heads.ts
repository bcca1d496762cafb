/** Heads as the live host gives them, held against what was sent, for Metadata. */
import { headSource } from '@fastigium/core/head';
import { parsePage } from '@fastigium/core/html';
import type { ManifestEntry } from '@fastigium/core/release';
import type { Queries } from '../../db/database.ts';
import { contentBytes } from '../shared/contents.ts';
import type { PageSeen } from './ask.ts';

interface Seen {
  readonly site: string;
  readonly release: string;
  readonly entries: ReadonlyMap<string, ManifestEntry>;
  readonly pages: readonly PageSeen[];
  readonly atMs: number;
}

export async function keepHeads(tx: Queries, { site, release, entries, pages, atMs }: Seen): Promise<void> {
  const problems: (string | null)[] = [];
  for (const page of pages) problems.push(await problemOf(tx, page, entries.get(page.path)));
  await tx.run('delete from head_proof where site_id = $1', [site]);
  await tx.run(
    'insert into head_proof (site_id, path, release_id, asked_at, problem) select $1, r.path, $2, $3, r.problem from unnest($4::text[], $5::text[]) as r(path, problem)',
    [site, release, new Date(atMs), pages.map(({ path }) => path), problems],
  );
}

/** What differs, in words; null where the head is as it was sent. */
async function problemOf(
  tx: Queries,
  { status, body, problem }: PageSeen,
  entry: ManifestEntry | undefined,
): Promise<string | null> {
  if (problem !== undefined) return `no answer: ${problem}`;
  if (status !== 200) return `the host answers ${status ?? 'nothing'}`;
  if (body === undefined || entry === undefined) return null;
  const sent = headText(await contentBytes(tx, entry.hash));
  const given = headText(body);
  const missing = sent.find((line) => !given.includes(line));
  if (missing !== undefined) return `not there: ${missing.slice(0, 300)}`;
  const more = given.find((line) => !sent.includes(line));
  return more === undefined ? null : `added on the way: ${more.slice(0, 300)}`;
}

const headText = (bytes: Uint8Array): string[] => headSource(parsePage(bytes)).map(({ source }) => source);
