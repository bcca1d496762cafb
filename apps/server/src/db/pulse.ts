/**
 * Whether the database answers, asked all the while over a connection of its own: so whoever comes is told at once that
 * it is away, and does not wait at a connection that hangs.
 */
import pg from 'pg';
import { within } from '../within.ts';

export interface Pulse {
  /** As last felt, a moment ago. */
  isThere(): boolean;
  close(): void;
}

const EVERY_MS = 1000;
/** Once it is away, so that nobody is sent off any longer than it is. */
const AWAY_EVERY_MS = 200;
const WITHIN_MS = 1500;
/** A process that was too busy to hear the answer hears it now: what came meanwhile is read before this is over. */
const GRACE_MS = 300;

/** @param url as the database is found now, which may be another server than before */
export function feelPulse(url: () => string): Pulse {
  let isThere = true;
  let client: pg.Client | undefined;
  let closed = false;
  let timer: NodeJS.Timeout | undefined;

  /** Without waiting for anything: what hangs would be waited for as well. */
  function drop(): void {
    const dropped = client as unknown as { connection?: { stream?: { destroy(): void } } } | undefined;
    client = undefined;
    dropped?.connection?.stream?.destroy();
  }

  async function ask(): Promise<void> {
    if (!client) {
      const next = new pg.Client({ connectionString: url() });
      next.on('error', () => {});
      client = next;
      await next.connect();
    }
    await client.query('select 1');
  }

  async function answers(): Promise<boolean> {
    const asked = ask();
    // Also where it is told only after nobody waits for it any more.
    asked.catch(() => {});
    return within(WITHIN_MS, asked)
      .catch(() => within(GRACE_MS, asked))
      .then(
        () => true,
        () => {
          drop();
          return false;
        },
      );
  }

  async function beat(): Promise<void> {
    const hadConnection = client !== undefined;
    // A connection that was lost says nothing of the next one.
    isThere = (await answers()) || (hadConnection && !closed && (await answers()));
    if (!closed) timer = setTimeout(() => void beat(), isThere ? EVERY_MS : AWAY_EVERY_MS);
  }
  void beat();
  return {
    isThere: () => isThere,
    close() {
      closed = true;
      clearTimeout(timer);
      drop();
    },
  };
}
