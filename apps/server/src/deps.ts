/** What features are given instead of reaching for it. */
import type { HostPort } from '@fastigium/contracts/ports/host';
import type { Logger } from 'pino';
import type { Config } from './config.ts';
import type { Database } from './db/database.ts';
import type { NewsFeed } from './db/events.ts';
import type { Threads } from './threads/pool.ts';

export interface Deps {
  readonly config: Config;
  readonly db: Database;
  readonly feed: NewsFeed;
  readonly host: HostPort;
  readonly threads: Threads;
  readonly log: Logger;
}
