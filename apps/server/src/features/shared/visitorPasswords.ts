/** What visitors type, beside the hash that hosts are told. */
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';

const namePurpose = (site: string, hash: string): string => `visitor password ${site} ${hash}`;

export async function keepPassword(
  tx: Queries,
  { seal, world }: Pick<Deps, 'seal' | 'world'>,
  { site, hash, password }: { readonly site: string; readonly hash: string; readonly password: string },
): Promise<void> {
  await tx.run('insert into visitor_password (site_id, hash, sealed, at) values ($1, $2, $3, $4)', [
    site,
    hash,
    seal.seal(namePurpose(site, hash), password),
    new Date(world.clock.nowMs()),
  ]);
}

/** By their hashes. */
export async function readPasswords(
  queries: Queries,
  { seal }: Pick<Deps, 'seal'>,
  site: string,
  hashes: readonly string[],
): Promise<Map<string, string>> {
  const rows = await queries.many<{ hash: string; sealed: Buffer }>(
    'select hash, sealed from visitor_password where site_id = $1 and hash = any($2)',
    [site, [...hashes]],
  );
  return new Map(rows.map(({ hash, sealed }) => [hash, seal.open(namePurpose(site, hash), sealed)]));
}
