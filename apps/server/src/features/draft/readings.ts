/**
 * What pages of a draft say of themselves as they will be published. Whoever shows, suggests or compares something of a
 * page asks here; the import is read by the compiler alone.
 */
import { findPublishedPath } from '@fastigium/core/release';
import type { Draft } from '@fastigium/core/site';
import type { Deps } from '../../deps.ts';
import { readContentsByHash } from '../shared/contents.ts';
import { readAllEntries } from '../shared/manifests.ts';
import { compileDraft, type CompiledDraft } from './compileDraft.ts';
import { readAllPages } from './pageFiles.ts';

export interface DraftReading {
  readonly title: string;
  readonly headings: readonly string[];
  /** The first paragraph of the main text. */
  readonly lead: string;
  readonly description: string;
  /** The beginning of the main text. */
  readonly text: string;
}

/** Pages read at once. */
const AT_ONCE = 64;

/** Of the pages that the draft makes other than their source; what is read in the source of all others is right. */
export async function readDraftReadings(
  deps: Deps,
  site: string,
  compiled?: CompiledDraft,
): Promise<ReadonlyMap<string, DraftReading>> {
  const { draft, importId, shards } = compiled ?? (await compileDraft(deps, site));
  const hashes = await findDifferingHashes(deps, importId, draft, shards);
  const known = new Map(
    (
      await deps.db.many<{ hash: string; reading: DraftReading }>(
        'select hash, reading from content_reading where hash = any($1)',
        [[...new Set(hashes.values())]],
      )
    ).map(({ hash, reading }) => [hash, reading]),
  );
  const missing = [...new Set(hashes.values())].filter((hash) => !known.has(hash));
  for (let from = 0; from < missing.length; from += AT_ONCE) {
    for (const [hash, reading] of await readContents(deps, missing.slice(from, from + AT_ONCE)))
      known.set(hash, reading);
  }
  return new Map(
    [...hashes].flatMap(([id, hash]) => {
      const reading = known.get(hash);
      return reading ? [[id, reading] as const] : [];
    }),
  );
}

async function findDifferingHashes(
  deps: Deps,
  importId: string,
  draft: Draft,
  shards: CompiledDraft['shards'],
): Promise<Map<string, string>> {
  const entries = await readAllEntries(deps.db, shards);
  const pages = await readAllPages(deps.db, importId, draft);
  return new Map(
    [...pages.values()].flatMap((page) => {
      const hash = entries.get(findPublishedPath(draft, page))?.hash;
      return hash === undefined || hash === page.hash ? [] : [[page.id, hash] as const];
    }),
  );
}

async function readContents(deps: Deps, hashes: readonly string[]): Promise<[string, DraftReading][]> {
  const contents = await readContentsByHash(deps.db, hashes);
  const present = hashes.filter((hash) => contents.has(hash));
  const read = await deps.threads.read(
    present.map((hash) => ({
      path: `${hash}.html`,
      kind: 'page' as const,
      bytes: contents.get(hash) ?? Buffer.alloc(0),
    })),
  );
  const out = present.map((hash, index): [string, DraftReading] => {
    const reading = read[index]?.reading;
    return [
      hash,
      {
        title: reading?.title ?? '',
        headings: reading?.headings.map(({ text }) => text) ?? [],
        lead: reading?.lead ?? '',
        description: reading?.description ?? '',
        text: reading?.text ?? '',
      },
    ];
  });
  await deps.db.run(
    'insert into content_reading (hash, reading) select * from unnest($1::text[], $2::jsonb[]) on conflict do nothing',
    [out.map(([hash]) => hash), out.map(([, reading]) => JSON.stringify(reading).replaceAll('\\u0000', ''))],
  );
  return out;
}
