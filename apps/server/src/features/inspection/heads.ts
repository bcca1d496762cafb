/** Heads as the live host gives them, held against what was sent, for Metadata. */
import { headProof, type HeadProofMessage } from '@fastigium/contracts/messages/headProof';
import { readHeadSource } from '@fastigium/core/head';
import { parsePage } from '@fastigium/core/html';
import type { ManifestEntry } from '@fastigium/core/release';
import type { Queries } from '../../db/database.ts';
import { readContent } from '../shared/contents.ts';
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
  for (const page of pages) {
    const problem = await findProblem(tx, page, entries.get(page.path));
    problems.push(problem && JSON.stringify(problem));
  }
  await tx.run('delete from head_proof where site_id = $1', [site]);
  await tx.run(
    'insert into head_proof (site_id, path, release_id, asked_at, message) select $1, r.path, $2, $3, r.message from unnest($4::text[], $5::jsonb[]) as r(path, message)',
    [site, release, new Date(atMs), pages.map(({ path }) => path), problems],
  );
}

/** What differs; null where the head is as it was sent. */
async function findProblem(
  tx: Queries,
  { status, body, problem }: PageSeen,
  entry: ManifestEntry | undefined,
): Promise<HeadProofMessage | null> {
  if (problem !== undefined) return headProof('no-answer', { reason: problem });
  if (status === undefined) return headProof('nothing-answered');
  if (status !== 200) return headProof('status', { status });
  if (body === undefined || entry === undefined) return null;
  const sent = readHeadText(await readContent(tx, entry.hash));
  const given = readHeadText(body);
  const missing = sent.find((line) => !given.includes(line));
  if (missing !== undefined) return headProof('missing', { line: missing.slice(0, 300) });
  const more = given.find((line) => !sent.includes(line));
  return more === undefined ? null : headProof('added', { line: more.slice(0, 300) });
}

const readHeadText = (bytes: Uint8Array): string[] => readHeadSource(parsePage(bytes)).map(({ source }) => source);
