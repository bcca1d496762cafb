import { picturesApi } from '@fastigium/contracts/api/pictures';
import { DomainError } from '@fastigium/contracts/errors';
import type { Deps } from '../../deps.ts';
import { ANSWERED, type Routes } from '../../http/route.ts';

export function addPicturesRoutes(routes: Routes, deps: Deps): void {
  routes.on(picturesApi.picture, async ({ params, res }) => {
    const row = await deps.db.maybeOne<{ bytes: Buffer }>(
      'select bytes from page_picture where site_id = $1 and hash = $2 limit 1',
      [params.site, params.picture],
    );
    if (!row) throw new DomainError('not-found', { what: 'picture' });
    // Another picture has another address, so this one never changes.
    res.set({ 'content-type': 'image/jpeg', 'cache-control': 'private, max-age=86400, immutable' }).send(row.bytes);
    return ANSWERED;
  });
  routes.on(picturesApi.list, async ({ params }) => ({
    draft: await readPicturesAt(deps, params.site, 'release_id is null'),
    live: await readPicturesAt(deps, params.site, 'release_id = (select live_release from site where id = $1)'),
  }));
}

async function readPicturesAt(deps: Deps, site: string, which: string): Promise<Record<string, string>> {
  const rows = await deps.db.many<{ path: string; hash: string }>(
    `select l.path, p.hash from page_appearance l join page_picture p using (site_id, appearance) where l.site_id = $1 and p.hash is not null and ${which}`,
    [site],
  );
  return Object.fromEntries(rows.map(({ path, hash }) => [path, hash]));
}
