import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';

/** Streams that somebody has open look again whether they may. */
export async function announceAccess(tx: Queries, person: string): Promise<void> {
  await announce(tx, { kind: 'access', person });
}
