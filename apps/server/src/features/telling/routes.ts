import { tellingApi } from '@fastigium/contracts/api/telling';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { writeMessageDraft, sendMessage } from './message.ts';
import { addHook, readHooks, removeHook, tryHook } from './hooks.ts';

const findOfferedAccount = ({ config }: Deps): { url: string } | null => {
  const { account } = config.world.offered;
  return account ? { url: account.url } : null;
};

export function addTellingRoutes(routes: Routes, deps: Deps): void {
  routes.on(tellingApi.hooks, async ({ params }) => ({
    hooks: await readHooks(deps.db, params.site),
    offered: { index: deps.config.world.offered.index ?? null, account: findOfferedAccount(deps) },
  }));
  routes.on(tellingApi.add, ({ params, body, person }) => addHook(deps, params.site, person, body));
  routes.on(tellingApi.remove, async ({ params }) => {
    await removeHook(deps.db, params.site, params.hook);
    return { done: true as const };
  });
  routes.on(tellingApi.draft, ({ params }) => writeMessageDraft(deps, params.site));
  routes.on(tellingApi.send, async ({ params, body }) => {
    await sendMessage(deps, params.site, params.hook, body.text);
    return { done: true as const };
  });
  routes.on(tellingApi.try, async ({ params }) => {
    await tryHook(deps, params.site, params.hook);
    return { done: true as const };
  });
}
