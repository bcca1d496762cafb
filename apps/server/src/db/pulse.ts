/**
 * Whether the database answers, asked all the while over a connection of its own: so whoever comes is told at once that
 * it is away, and does not wait at a connection that hangs.
 */
import pg from 'pg';
import { cutLine } from './database.ts';
import type { DatabasePlaces } from './places.ts';
import { runWithin } from '../within.ts';

const IDENTITY = `select pg_is_in_recovery() as "isStandby", concat(inet_server_addr(), ' ', inet_server_port(), ' ', pg_postmaster_start_time()) as server`;

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

/**
 * @param places where to look for it when it is away
 * @param onAnother called where whoever answers is another server than before, or the same that was started again:
 * connections to the one before may hang for long
 */
export function feelPulse(places: DatabasePlaces, onAnother: () => void): Pulse {
  let isThere = true;
  let server: string | undefined;
  let client: pg.Client | undefined;
  let closed = false;
  let timer: NodeJS.Timeout | undefined;

  /** Without waiting for anything: what hangs would be waited for as well. */
  function drop(): void {
    const dropped = client;
    client = undefined;
    cutLine(dropped);
  }

  async function ask(): Promise<void> {
    if (!client) {
      const next = new pg.Client({ connectionString: places.url() });
      next.on('error', () => {});
      client = next;
      await next.connect();
    }
    const { rows } = await client.query<{ isStandby: boolean; server: string }>(IDENTITY);
    const [row] = rows;
    // It answers, and takes no change.
    if (!row || row.isStandby) throw new Error('the database is a standby');
    if (server !== undefined && server !== row.server) onAnother();
    server = row.server;
  }

  async function answers(): Promise<boolean> {
    const asked = ask();
    // Also where it is told only after nobody waits for it any more.
    asked.catch(() => {});
    return runWithin(WITHIN_MS, asked)
      .catch(() => runWithin(GRACE_MS, asked))
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
    if (!isThere && !closed) await places.findPrimary();
  }
  /** Whatever one beat met, there is a next one. */
  function goOn(): void {
    if (!closed) timer = setTimeout(begin, isThere ? EVERY_MS : AWAY_EVERY_MS);
  }
  function begin(): void {
    beat().then(goOn, goOn);
  }
  begin();
  return {
    isThere: () => isThere,
    close() {
      closed = true;
      clearTimeout(timer);
      drop();
    },
  };
}
