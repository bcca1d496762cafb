/** What features are given instead of reaching for it. */
import type { Logger } from 'pino';
import type { Hosts } from './adapters/host/hosts.ts';
import type { Mail } from './adapters/mail/mail.ts';
import type { WorldPorts } from './adapters/world/world.ts';
import type { Config } from './config/config.ts';
import type { Database } from './db/database.ts';
import type { NewsFeed } from './db/events.ts';
import type { Pulse } from './db/pulse.ts';
import type { Seal } from './secrets.ts';
import type { KeptUploads } from './http/keptUploads.ts';
import type { Threads } from './threads/pool.ts';

export interface Deps {
  /** An id no other process has (a UUID), for what can be done here alone. */
  readonly process: string;
  readonly config: Config;
  readonly db: Database;
  readonly feed: NewsFeed;
  readonly pulse: Pulse;
  readonly hosts: Hosts;
  readonly world: WorldPorts;
  readonly seal: Seal;
  /** Undefined where none is sent. */
  readonly mail: Mail | undefined;
  readonly threads: Threads;
  readonly keptUploads: KeptUploads;
  readonly log: Logger;
  /** Aborts when this process is about to end: what goes on without an end of its own ends then. */
  readonly stopping: AbortSignal;
}
