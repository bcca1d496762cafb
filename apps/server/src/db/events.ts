/**
 * News between server processes and to browsers, over PostgreSQL's LISTEN and NOTIFY. News says
 * what to look at again; it is never the only place where something is known.
 */
import pg from 'pg';
import { cutLine } from './database.ts';
import type { Queries } from './database.ts';

const CONNECTED_WITHIN_MS = 5000;
const CHANNEL = 'fastigium';

export type News =
  | { readonly kind: 'job'; readonly site: string; readonly job: string }
  | { readonly kind: 'draft'; readonly site: string; readonly version: number; readonly by: string }
  /** What somebody may do has changed, or a session of theirs has ended. */
  | { readonly kind: 'access'; readonly person: string }
  | { readonly kind: 'release'; readonly site: string }
  | { readonly kind: 'snags'; readonly site: string }
  | { readonly kind: 'pictures'; readonly site: string }
  | { readonly kind: 'address'; readonly site: string }
  | { readonly kind: 'redirects'; readonly site: string }
  | { readonly kind: 'notice'; readonly site: string }
  | { readonly kind: 'watch'; readonly site: string };

/** Sent when the transaction commits, and not at all when it does not. */
export async function announce(queries: Queries, news: News): Promise<void> {
  await queries.run('select pg_notify($1, $2)', [CHANNEL, JSON.stringify(news)]);
}

export interface NewsFeed {
  subscribe(listener: (news: News) => void): () => void;
  /** Listens over a new connection, since the one there is may hang. */
  renew(): void;
  close(): Promise<void>;
}

/** One listening connection a process; it comes back by itself when the line breaks. */
/** @param url as the database is found now */
export async function listen(url: () => string, onError: (error: unknown) => void): Promise<NewsFeed> {
  const listeners = new Set<(news: News) => void>();
  let client: pg.Client | undefined;
  let closed = false;
  let retry: NodeJS.Timeout | undefined;

  async function open(): Promise<void> {
    const next = new pg.Client({ connectionString: url(), connectionTimeoutMillis: CONNECTED_WITHIN_MS });
    next.on('notification', ({ payload }) => {
      const news = JSON.parse(payload ?? 'null') as News | null;
      if (news) for (const listener of listeners) listener(news);
    });
    next.on('error', onError);
    next.on('end', () => {
      if (!closed) retry = setTimeout(() => void open().catch(onError), 1000);
    });
    await next.connect();
    await next.query(`listen ${CHANNEL}`);
    client = next;
  }

  await open();
  return {
    subscribe(listener) {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    renew: () => cutLine(client),
    async close() {
      closed = true;
      clearTimeout(retry);
      await client?.end();
    },
  };
}
