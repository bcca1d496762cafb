/** Sessions in PostgreSQL, so that any server process knows them and a restart ends none. */
import connectPgSimple from 'connect-pg-simple';
import session from 'express-session';
import type { Deps } from '../deps.ts';

declare module 'express-session' {
  interface SessionData {
    person: string;
    csrf: string;
  }
}

const FORTNIGHT_MS = 14 * 24 * 60 * 60 * 1000;

export function sessions(deps: Deps): { middleware: ReturnType<typeof session>; close(): void } {
  const Store = connectPgSimple(session);
  const store = new Store({
    pool: deps.db.pool,
    tableName: 'session',
    pruneSessionInterval: 15 * 60,
    errorLog: (...details: unknown[]) => deps.log.warn({ details }, 'session store'),
  });
  const middleware = session({
    store,
    name: 'fastigium',
    secret: deps.config.secret,
    resave: false,
    saveUninitialized: false,
    rolling: true,
    // Plain http on loopback, so not `secure`; host-only, so previews under other names never get it.
    cookie: { httpOnly: true, sameSite: 'strict', maxAge: FORTNIGHT_MS, path: '/' },
  });
  return { middleware, close: () => void store.close() };
}
