/** File contents in PostgreSQL, once each by SHA-256. */
import type { Queries } from '../../db/database.ts';

export interface NewContent {
  readonly hash: string;
  readonly bytes: Uint8Array;
}

// Each row carries its bytes as a parameter of its own in binary form; an array of bytea would be
// sent as text, twice the size.
const ROWS_A_STATEMENT = 100;

/** Keeps contents; known ones stay as they are, and are as good as new. `importId` marks those an import brought first. */
export async function keepContents(
  queries: Queries,
  contents: readonly NewContent[],
  importId: string | null,
): Promise<void> {
  // One statement may say a row once only.
  const each = [...new Map(contents.map((content) => [content.hash, content])).values()];
  for (let from = 0; from < each.length; from += ROWS_A_STATEMENT) {
    const rows = each.slice(from, from + ROWS_A_STATEMENT);
    const values = rows
      .map((_, i) => `($${3 * i + 2}, $${3 * i + 3}::bigint, $${3 * i + 4}::bytea, $1::uuid)`)
      .join(', ');
    await queries.run(
      `insert into content (hash, size_bytes, bytes, import_id) values ${values}
       on conflict (hash) do update set kept_at = now() where content.kept_at < now() - interval '1 hour'`,
      [
        importId,
        ...rows.flatMap(({ hash, bytes }) => [
          hash,
          bytes.length,
          Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length),
        ]),
      ],
    );
  }
}

/** Throws when the content is not kept: whoever asks has seen its hash in a row that refers to it. */
export async function readContent(queries: Queries, hash: string): Promise<Buffer> {
  return (await queries.one<{ bytes: Buffer }>('select bytes from content where hash = $1', [hash])).bytes;
}

/** In bytes; throws like contentBytes. */
export async function readContentSize(queries: Queries, hash: string): Promise<number> {
  return (await queries.one<{ size: number }>('select size_bytes as size from content where hash = $1', [hash])).size;
}

/** Contents that are kept, by their hashes. */
export async function readContentsByHash(queries: Queries, hashes: readonly string[]): Promise<Map<string, Buffer>> {
  const list = [...new Set(hashes)].join(',');
  // They stand in the query as they are, many kilobytes of them.
  if (!/^[0-9a-f,]*$/.test(list)) throw new Error('not hashes');
  const rows = await queries.raw(`select hash, bytes from content where hash = any('{${list}}')`);
  return new Map(rows.flatMap(([hash, bytes]) => (hash && bytes ? [[hash.toString('latin1'), bytes]] : [])));
}

/** Whether all of some hashes are of contents that are kept. */
export async function areKept(queries: Queries, hashes: ReadonlySet<string>): Promise<boolean> {
  const { count } = await queries.one<{ count: number }>('select count(*) as count from content where hash = any($1)', [
    [...hashes],
  ]);
  return count === hashes.size;
}

/**
 * Until the transaction ends. Whoever begins to refer to contents shares it, whoever deletes what nobody refers to has
 * it alone: so neither looks past what the other is about to write.
 */
export async function holdContents(tx: Queries, how: 'shared' | 'alone'): Promise<void> {
  const lock = how === 'shared' ? 'pg_advisory_xact_lock_shared' : 'pg_advisory_xact_lock';
  await tx.run(`select ${lock}(hashtextextended('contents', 0))`);
}
