/** All that is sealed in the database: held against the keys of the configuration at a start, and sealed anew with another. */
import type { Database, Queries } from '../../db/database.ts';
import { sealedBy, type Seal } from '../../secrets.ts';

/** Where secrets stand: how each is found again, and what it is sealed for, in the words of its feature. */
const PLACES = [
  { table: 'host_account', column: 'secret', key: ['site_id'], purpose: `'host ' || site_id` },
  { table: 'address', column: 'update_secret', key: ['site_id'], purpose: `'dns update ' || site_id` },
  { table: 'certificate', column: 'sealed_key', key: ['site_id', 'zone'], purpose: `'certificate ' || site_id` },
  { table: 'acme_account', column: 'sealed_key', key: ['directory'], purpose: `'acme account ' || directory` },
  { table: 'second_factor', column: 'secret', key: ['id'], purpose: `'second factor ' || id` },
  { table: 'hook', column: 'secret', key: ['id'], purpose: `'hook ' || id` },
  {
    table: 'visitor_password',
    column: 'sealed',
    key: ['site_id', 'hash'],
    purpose: `'visitor password ' || site_id || ' ' || hash`,
  },
] as const;

const PROBE = 'seal key';

interface SealedRow extends Record<string, unknown> {
  readonly purpose: string;
  readonly sealed: Buffer;
}

/** Throws an Error, with what to do, where something here is sealed by a key that is not among them. */
export async function checkSealKeys(db: Database, seal: Seal): Promise<void> {
  const known = await db.many<{ id: string; probe: Buffer }>('select id, probe from seal_key order by since');
  const missing = known.filter(({ id }) => !seal.keyIds.includes(id)).map(({ id }) => id);
  if (missing.length > 0)
    throw new Error(
      `Passwords and keys in this database are sealed by a key that FASTIGIUM_SEAL_KEY does not hold (${missing.join(', ')}; it holds ${seal.keyIds.join(', ')}). Put that key into it again: by itself, or behind the new one with a comma between them. Without it they cannot be read.`,
    );
  for (const { id, probe } of known)
    if (seal.open(PROBE, probe) !== id) throw new Error(`The key ${id} does not open what it sealed.`);
  // Of before keys had ids: one of each kind tells.
  if (known.length === 0)
    for (const place of PLACES) {
      const [row] = await readSealedRows(db, place, 'limit 1');
      if (row && !opens(seal, row))
        throw new Error(
          `What is sealed in this database (${place.table}) does not open with FASTIGIUM_SEAL_KEY. Use the key that was used before; a new one can stand before it, with a comma between them.`,
        );
    }
  const [current] = seal.keyIds;
  await db.run('insert into seal_key (id, probe) values ($1, $2) on conflict do nothing', [
    current,
    seal.seal(PROBE, current ?? ''),
  ]);
}

function opens(seal: Seal, { purpose, sealed }: SealedRow): boolean {
  try {
    seal.open(purpose, sealed);
    return true;
  } catch {
    return false;
  }
}

function readSealedRows(
  queries: Queries,
  { table, column, key, purpose }: (typeof PLACES)[number],
  rest = '',
): Promise<SealedRow[]> {
  return queries.many<SealedRow>(
    `select ${purpose} as purpose, ${column} as sealed, ${key.join(', ')} from ${table} where ${column} is not null ${rest}`,
  );
}

/**
 * Seals everything that another key than the first has sealed with the first; afterwards the others are needed no more.
 * One transaction: either all of it or nothing.
 *
 * @returns how many secrets were sealed anew
 */
export async function resealAll(db: Database, seal: Seal): Promise<number> {
  const [current] = seal.keyIds;
  return db.transaction(async (tx) => {
    let count = 0;
    for (const place of PLACES) {
      for (const row of await readSealedRows(tx, place, 'for update')) {
        if (sealedBy(row.sealed) === current) continue;
        const values = place.key.map((column) => row[column]);
        const where = place.key.map((column, index) => `${column} = $${index + 2}`).join(' and ');
        await tx.run(`update ${place.table} set ${place.column} = $1 where ${where}`, [
          seal.seal(row.purpose, seal.open(row.purpose, row.sealed)),
          ...values,
        ]);
        count += 1;
      }
    }
    await tx.run('delete from seal_key where id <> $1', [current]);
    return count;
  });
}
