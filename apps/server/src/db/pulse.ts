/**
 * Whether the database answers, asked all the while over a connection of its own: so whoever comes is told at once that
 * it is away, and does not wait at a connection that hangs.
 */
import pg from 'pg';
import { within } from '../http/within.ts';

export interface Pulse {
  /** As last felt, a moment ago. */
  isThere(): boolean;
  close(): void;
}

const EVERY_MS = 1000;
const WITHIN_MS = 1500;

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
      const next = new pg.Client({ connectionString: url(), connectionTimeoutMillis: WITHIN_MS });
      next.on('error', () => {});
      client = next;
      await next.connect();
    }
    await client.query('select 1');
  }

  async function beat(): Promise<void> {
    try {
      await within(WITHIN_MS, ask());
      isThere = true;
    } catch {
      isThere = false;
      drop();
    }
    if (!closed) timer = setTimeout(() => void beat(), EVERY_MS);
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
