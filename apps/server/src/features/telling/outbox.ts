/** What is to be told, kept with what happened in one transaction: nothing is told that was not, and nothing is forgotten. */
import type { Message } from '@fastigium/core/messages';
import { speak } from '../../words.ts';
import type { HookEvent, Told } from '@fastigium/contracts/api/telling';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { readPublicUrl } from './publicUrl.ts';

export async function tellOthers(
  tx: Queries,
  deps: Deps,
  site: string,
  event: HookEvent,
  message: Message,
  more: Pick<Told, 'release' | 'pages'> = {},
): Promise<void> {
  const hooks = await tx.many<{ id: string }>('select id from hook where site_id = $1 and $2 = any(events)', [
    site,
    event,
  ]);
  if (hooks.length === 0) return;
  await keepTelling(
    tx,
    deps,
    hooks.map(({ id }) => id),
    site,
    { event, words: speak(message), ...more },
  );
}

export async function keepTelling(
  tx: Queries,
  deps: Deps,
  hooks: readonly string[],
  site: string,
  telling: Omit<Told, 'at' | 'site'>,
): Promise<void> {
  const { name, isLive } = await tx.one<{ name: string; isLive: boolean }>(
    'select name, live_release is not null as "isLive" from site where id = $1',
    [site],
  );
  const at = new Date(deps.world.clock.nowMs());
  const body: Told = {
    ...telling,
    at: at.toISOString(),
    site: { name, url: (isLive ? await readPublicUrl(deps, tx, site) : undefined) ?? null },
  };
  await tx.run(
    'insert into delivery (hook_id, event, body, at, next_at) select h, $2, $3, $4, $4 from unnest($1::uuid[]) as h',
    [hooks, telling.event, JSON.stringify(body), at],
  );
}
