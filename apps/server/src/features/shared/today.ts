import type { Deps } from '../../deps.ts';

/** The day by the world's clock, `2026-11-25`, in UTC as releases are dated. */
export function readToday({ world }: Pick<Deps, 'world'>): string {
  return new Date(world.clock.nowMs()).toISOString().slice(0, 10);
}
