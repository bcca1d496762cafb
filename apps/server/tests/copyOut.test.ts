/** Rows in the binary form of COPY, against what the same server says of them in its other forms. */
import { createHash } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Database } from '../src/db/database.ts';
import { openHouse, type House } from './harness.ts';

let house: House;
let db: Database;
beforeAll(async () => {
  house = await openHouse();
  ({ db } = house.server.deps);
});
afterAll(() => house.stop());

describe('rows as PostgreSQL holds them', () => {
  it('have every byte there is, nothing, and null told apart from it', async () => {
    const hex = Array.from({ length: 256 }, (_, byte) => byte.toString(16).padStart(2, '0')).join('');
    const rows = await db.raw(
      `select * from (values (1, 'dömé'::text, '\\x${hex}'::bytea), (2, '', ''), (3, null, null)) as r(n, text, bytes) order by n`,
    );
    expect(
      rows.map(([n, text, bytes]) => [
        n?.readInt32BE(),
        text?.toString('utf8') ?? null,
        bytes?.toString('hex') ?? null,
      ]),
    ).toEqual([
      [1, 'dömé', hex],
      [2, '', ''],
      [3, null, null],
    ]);
    expect(await db.raw('select 1 where false')).toEqual([]);
  });

  it('come whole where they are many and large: the server’s own sha256 of each is that of what came', async () => {
    // A few bytes, some kilobytes, and one of several megabytes: within, across and far beyond what a socket brings at once.
    const select = `select sha256(bytes), bytes from (select decode(repeat(md5(n::text), case when n = 700 then 200000 else n % 400 end), 'hex') as bytes from generate_series(1, 900) as n) as made`;
    const rows = await db.raw(select);
    expect(rows).toHaveLength(900);
    expect(Math.max(...rows.map(([, bytes]) => bytes?.length ?? 0))).toBe(3_200_000);
    for (const [sum, bytes] of rows)
      expect(
        createHash('sha256')
          .update(bytes ?? '')
          .digest('hex'),
      ).toBe(sum?.toString('hex'));
  });

  it('are those of the transaction they are asked for in', async () => {
    await expect(
      db.transaction(async (tx) => {
        await tx.run(`insert into content (hash, size_bytes, bytes) values ($1, 3, '\\x616263')`, ['ab'.repeat(32)]);
        expect((await tx.raw(`select bytes from content where hash = '${'ab'.repeat(32)}'`))[0]?.[0]?.toString()).toBe(
          'abc',
        );
        await expect(db.raw('select 1')).rejects.toThrow('transaction’s own queries');
        throw new Error('taken back');
      }),
    ).rejects.toThrow('taken back');
    expect(await db.raw(`select bytes from content where hash = '${'ab'.repeat(32)}'`)).toEqual([]);
  });

  it('that cannot be had are told of, and the next question is answered; a line that is lost in the middle likewise', async () => {
    await expect(db.raw('select nothing from nowhere')).rejects.toThrow('nowhere');
    await expect(db.raw('select 1 / (n - 300000) from generate_series(1, 400000) as n')).rejects.toThrow(
      'division by zero',
    );
    await expect(
      db.raw('select pg_terminate_backend(pg_backend_pid()), n from generate_series(1, 100000) as n'),
    ).rejects.toThrow();
    expect((await db.raw('select 7'))[0]?.[0]?.readInt32BE()).toBe(7);
  });
});
