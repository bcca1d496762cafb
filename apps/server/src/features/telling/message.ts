/** A message about the live release, drafted, and sent once somebody has read it. */
import { DomainError } from '@fastigium/contracts/errors';
import type { Change } from '@fastigium/contracts/api/releases';
import { isPageFile } from '@fastigium/core/address';
import { readPage } from '@fastigium/core/html';
import type { ShardHashes } from '@fastigium/core/release';
import { createReleaseMessage } from '@fastigium/core/report';
import type { Deps } from '../../deps.ts';
import { readContent } from '../shared/contents.ts';
import { readEntries } from '../shared/manifests.ts';
import { readChangesBetween } from '../changes/changes.ts';
import type { ReleaseContents } from '../shared/releaseList.ts';
import { keepTelling } from './outbox.ts';
import { readPublicUrl } from './publicUrl.ts';

const MOST_NAMED = 40;

async function readAddressToTell(deps: Deps, site: string): Promise<string> {
  const url = await readPublicUrl(deps, deps.db, site);
  if (url === undefined) throw new DomainError('site-address-unknown');
  return url;
}

export async function writeMessageDraft(deps: Deps, site: string): Promise<{ text: string; release: number | null }> {
  const live = await deps.db.maybeOne<
    ReleaseContents & { number: number; name: string; label: string } & Record<string, unknown>
  >(
    `select r.number, r.shards, r.rules_hash as "rulesHash", s.name, s.temporary_label as label from site s join release r on r.id = s.live_release where s.id = $1`,
    [site],
  );
  if (!live) return { text: '', release: null };
  const before = await deps.db.maybeOne<ReleaseContents & Record<string, unknown>>(
    `select shards, rules_hash as "rulesHash" from release where site_id = $1 and live_at is not null and shards is not null and number < $2 order by number desc limit 1`,
    [site, live.number],
  );
  const { changes } = await readChangesBetween(deps, before, live);
  const paths = (wanted: (change: Change) => boolean) =>
    changes
      .filter((change) => wanted(change) && change.key.startsWith('file:'))
      .slice(0, MOST_NAMED)
      .map(({ key }) => key.slice('file:'.length));
  const titles = (changed: readonly string[]) => readTitles(deps, live.shards, changed);
  return {
    release: live.number,
    text: createReleaseMessage({
      site: live.name,
      url: await readAddressToTell(deps, site),
      isFirst: before === undefined,
      newPages:
        before === undefined ? [] : await titles(paths(({ group, what }) => group === 'addresses' && what === 'added')),
      changedPages:
        before === undefined ? [] : await titles(paths(({ group, what }) => group === 'pages' && what === 'changed')),
    }),
  };
}

/** Of published pages, without what all titles of a site usually end in; each once. */
async function readTitles({ db }: Deps, shards: ShardHashes, paths: readonly string[]): Promise<string[]> {
  const entries = await readEntries(db, shards, paths);
  const titles: string[] = [];
  for (const path of paths) {
    const entry = entries.get(path);
    const title = entry && isPageFile(path) ? readPage(await readContent(db, entry.hash)).title : undefined;
    if (title) titles.push(title.replace(/ [·|–—-] [^·|–—]*$/, ''));
  }
  return [...new Set(titles)];
}

export async function sendMessage(deps: Deps, site: string, hook: string, text: string): Promise<void> {
  await deps.db.transaction(async (tx) => {
    if (!(await tx.maybeOne(`select 1 from hook where id = $1 and site_id = $2 and kind = 'account'`, [hook, site])))
      throw new DomainError('not-found', { what: 'account' });
    await keepTelling(tx, deps, [hook], site, { event: 'message', words: text });
  });
}
