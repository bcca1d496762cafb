/** Numbered SQL files, applied once each in order, under a lock so that two servers may start at once. */
import { createHash } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Database } from './database.ts';

// Any fixed number, the same in every server process.
const LOCK = 4_306_569;

export async function migrate(db: Database, folder: string): Promise<readonly string[]> {
  const names = (await readdir(folder)).filter((name) => /^\d{6}_\w+\.sql$/.test(name)).sort();
  return db.transaction(async (tx) => {
    // As long as it takes: nobody works with the database meanwhile.
    await tx.run('set local statement_timeout = 0');
    await tx.run('select pg_advisory_xact_lock($1)', [LOCK]);
    await tx.run(
      'create table if not exists migration (name text primary key, sha256 text not null, at timestamptz not null default now())',
    );
    const applied = new Map(
      (await tx.many<{ name: string; sha256: string }>('select name, sha256 from migration')).map((row) => [
        row.name,
        row.sha256,
      ]),
    );
    for (const name of applied.keys()) {
      if (!names.includes(name)) {
        throw new Error(
          `The database is newer than this Fastigium (it has ${name}). Start the newer version, or restore a backup.`,
        );
      }
    }
    const fresh: string[] = [];
    for (const name of names) {
      const sql = await readFile(join(folder, name), 'utf8');
      const sha256 = createHash('sha256').update(sql).digest('hex');
      const known = applied.get(name);
      if (known === sha256) continue;
      if (known !== undefined)
        throw new Error(`The migration ${name} was changed after it was applied. Migrations are only ever added.`);
      await tx.run(sql);
      await tx.run('insert into migration (name, sha256) values ($1, $2)', [name, sha256]);
      fresh.push(name);
    }
    return fresh;
  });
}
