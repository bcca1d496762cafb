/**
 * Sessions in PostgreSQL, so that any server process knows them and a restart ends none. Only whoever has signed in has
 * one: a question of somebody else's costs no row. The table holds a hash of what the browser holds.
 */
import session, { Store, type SessionData } from 'express-session';
import { createHash } from 'node:crypto';
import type { Request } from 'express';
import type { Config } from '../config/config.ts';
import type { Database } from '../db/database.ts';
import type { Logger } from 'pino';

declare module 'express-session' {
  interface SessionData {
    /** Its id in the table, by which its owner may name it. */
    row: string;
    person: string;
    csrf: string;
    agent: string;
    address: string;
  }
}

/** Being seen is written down this often; a row for every request would be one write for every read. */
const SEEN_EVERY_MS = 60_000;
const SWEEP_EVERY_MS = 15 * 60_000;
const MOST_AGENT_CHARS = 300;

type Done = (error?: unknown) => void;

class SessionTable extends Store {
  readonly #db: Database;
  readonly #limits: Config['sessions'];

  constructor(db: Database, limits: Config['sessions']) {
    super();
    this.#db = db;
    this.#limits = limits;
  }

  override get(sid: string, done: (error: unknown, data?: SessionData | null) => void): void {
    this.find(sid).then(
      (data) => done(null, data),
      (error: unknown) => done(error),
    );
  }

  async find(sid: string): Promise<SessionData | null> {
    const row = await this.#db.maybeOne<{ row: string; person: string; csrf: string; agent: string; address: string }>(
      `select id as row, person_id as person, csrf, agent, address from session
        where token_hash = $1 and idle_until > now() and ends_at > now()`,
      [hashOf(sid)],
    );
    return row ? { ...row, cookie: { originalMaxAge: this.#limits.idleMs } } : null;
  }

  /** Called once a session has somebody; what it says never changes afterwards. */
  override set(sid: string, { person, csrf, agent, address }: SessionData, done: Done = () => {}): void {
    this.#db
      .run(
        `insert into session (token_hash, person_id, csrf, agent, address, idle_until, ends_at)
         values ($1, $2, $3, $4, $5, now() + make_interval(secs => $6), now() + make_interval(secs => $7))
         on conflict (token_hash) do nothing`,
        [hashOf(sid), person, csrf, agent, address, this.#limits.idleMs / 1000, this.#limits.wholeMs / 1000],
      )
      .then(() => done(), done);
  }

  override touch(sid: string, _data: SessionData, done: Done = () => {}): void {
    this.#db
      .run(
        `update session set seen_at = now(), idle_until = now() + make_interval(secs => $2)
          where token_hash = $1 and seen_at < now() - make_interval(secs => $3)`,
        [hashOf(sid), this.#limits.idleMs / 1000, SEEN_EVERY_MS / 1000],
      )
      .then(() => done(), done);
  }

  override destroy(sid: string, done: Done = () => {}): void {
    this.#db.run('delete from session where token_hash = $1', [hashOf(sid)]).then(() => done(), done);
  }
}

const hashOf = (sid: string): string => createHash('sha256').update(sid).digest('hex');

/** RFC 6265bis, section 4.1.3.2: with this in its name no other host, and nothing without TLS, can set it. */
export const nameCookie = ({ isSecure }: Config['publicSite']): string => (isSecure ? '__Host-fastigium' : 'fastigium');

export function createSessions(
  config: Config,
  db: Database,
  log: Logger,
): {
  middleware: ReturnType<typeof session>;
  /** Whether a session has not ended, by what its browser holds. */
  has(sid: string): Promise<boolean>;
  close(): void;
} {
  const table = new SessionTable(db, config.sessions);
  const middleware = session({
    store: table,
    name: nameCookie(config.publicSite),
    // The first signs, the others are those of before.
    secret: [...config.secrets],
    resave: false,
    saveUninitialized: false,
    rolling: true,
    // Host-only, so previews under other names never get it.
    cookie: {
      httpOnly: true,
      sameSite: 'strict',
      secure: config.publicSite.isSecure,
      maxAge: config.sessions.idleMs,
      path: '/',
    },
  });
  const sweep = setInterval(() => {
    db.run('delete from session where idle_until < now() or ends_at < now()').catch((error: unknown) =>
      log.warn({ err: error }, 'ended sessions not swept'),
    );
  }, SWEEP_EVERY_MS).unref();
  return {
    middleware,
    has: async (sid) => (await table.find(sid)) !== null,
    close: () => clearInterval(sweep),
  };
}

/** A new session for whoever has just proved who they are, so that one known to others before is worth nothing after. */
export async function enterSession(req: Request, person: string, csrf: string): Promise<void> {
  await new Promise<void>((resolve, reject) =>
    req.session.regenerate((error) => (error ? reject(error as Error) : resolve())),
  );
  Object.assign(req.session, {
    person,
    csrf,
    agent: (req.get('user-agent') ?? '').slice(0, MOST_AGENT_CHARS),
    address: req.ip ?? '',
  });
  // Kept before it is answered: whoever has the answer is in.
  await new Promise<void>((resolve, reject) =>
    req.session.save((error) => (error ? reject(error as Error) : resolve())),
  );
}

export async function leaveSession(req: Request): Promise<void> {
  await new Promise<void>((resolve, reject) =>
    req.session.destroy((error) => (error ? reject(error as Error) : resolve())),
  );
}
