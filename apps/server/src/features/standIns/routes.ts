/** Playing the stand-ins from the application: their clock, their faults, and a zone changed by hand. */
import { standInClock, standInFaults, standInsApi } from '@fastigium/contracts/api/standIns';
import { DomainError } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import { z } from 'zod';
import { askJson } from '../../adapters/web/http.ts';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';

const clockAnswer = z
  .object({ nowMs: z.number(), aheadMs: z.number() })
  .transform(({ nowMs, aheadMs }) => standInClock.parse({ now: new Date(nowMs).toISOString(), aheadMs }));

export function addStandInsRoutes(routes: Routes, deps: Deps): void {
  const { standInsUrl, standInsToken } = deps.config.world;
  async function panel<T extends z.ZodType>(
    schema: T,
    method: string,
    path: string,
    body?: unknown,
  ): Promise<z.output<T>> {
    if (standInsUrl === undefined) throw new DomainError('standin-refused', { detail: reason('no-stand-ins') });
    const { status, json } = await askJson(new URL(path, standInsUrl), {
      method,
      headers: { authorization: `Bearer ${standInsToken}` },
      json: body,
      withinMs: 5000,
    }).catch((error: unknown) => {
      throw new DomainError('standin-refused', { detail: reason('they-do-not-answer') }, { cause: error });
    });
    if (status >= 300) throw new DomainError('standin-refused', { detail: reason('answer-status', { status }) });
    return schema.parse(json);
  }
  const registrar = () => {
    // Only a stand-in's zone panel is ours to play; a real registrar's is its own.
    if (!deps.world.registrar || standInsUrl === undefined)
      throw new DomainError('standin-refused', { detail: reason('no-stand-ins') });
    return deps.world.registrar;
  };
  routes.on(standInsApi.clock, () =>
    standInsUrl === undefined ? Promise.resolve(null) : panel(clockAnswer, 'GET', '/clock'),
  );
  routes.on(standInsApi.runOn, async ({ body }) => {
    const clock = await panel(clockAnswer, 'POST', '/clock', body);
    await deps.world.clock.refresh();
    return clock;
  });
  routes.on(standInsApi.faults, () => panel(standInFaults, 'GET', '/faults'));
  routes.on(standInsApi.setFaults, ({ body }) => panel(standInFaults, 'PUT', '/faults', body));
  routes.on(standInsApi.zone, async ({ params }) => ({ zone: params.zone, text: await registrar().zone(params.zone) }));
  routes.on(standInsApi.setZone, async ({ params, body }) => {
    await registrar().replaceZone(params.zone, body.text);
    return { done: true } as const;
  });
}
