/**
 * Routes from endpoints: who may call, what comes in and what goes out are checked here, once, so a
 * handler starts from facts and cannot answer anything but what the contract says.
 */
import type { AnswerOf, BodyOf, Endpoint, Method, ParamsOf, QueryOf, Role } from '@fastigium/contracts/endpoint';
import { findAct } from '@fastigium/contracts/acts';
import type { Part } from '@fastigium/core/messages';
import { BODY_BYTES, LARGE_BODY_BYTES, ROLES, STRANGERS_BODY_BYTES } from '@fastigium/contracts/endpoint';
import { DomainError } from '@fastigium/contracts/errors';
import express, { type Request, type RequestHandler, type Response, type Router } from 'express';
import { type z } from 'zod';
import { writeAnswer } from './answer.ts';
import type { Caller } from './caller.ts';
import type { CsrfTokens } from './csrf.ts';
import type { BegunAct, TrailAct } from '../features/trail/trail.ts';
import type { createIncomingFiles, Incoming, Upload } from './incoming.ts';
import { readRequestId } from './requestId.ts';

export interface Call<E extends Endpoint, P = Caller> {
  readonly params: ParamsOf<E>;
  readonly query: QueryOf<E>;
  readonly body: BodyOf<E>;
  readonly person: P;
  readonly req: Request;
  readonly res: Response;
  /** What came with the request, of endpoints that take a stream: whole, and kept as long as the handler runs. */
  readonly upload: Upload;
  /** Goes into the audit trail beside the act: whom or what it was done to. */
  readonly note: (about: Part) => void;
  /** Whether the same request would be let through now: for answers that go on. */
  readonly stillMay: () => Promise<boolean>;
}

type Handler<E extends Endpoint, P> = (call: Call<E, P>) => Promise<AnswerOf<E> | typeof ANSWERED>;

/** For the rare handler that answers by itself, such as a stream of events. */
export const ANSWERED = Symbol('answered');

export interface Routes {
  /** For people who are signed in; the endpoint names the least role. */
  on<E extends Endpoint>(endpoint: E, handler: Handler<E, Caller>): void;
  /** For everyone. */
  open<E extends Endpoint>(endpoint: E, handler: Handler<E, Caller | undefined>): void;
}

/** What routes ask about callers before a handler runs. */
export interface Gatekeeper {
  callerOf(id: string): Promise<Caller | undefined>;
  /** Whether a session has not ended, by what its browser holds. */
  hasSession(sessionId: string): Promise<boolean>;
  /** Throws where somebody sees no such site. */
  requireSite(person: string, site: string): Promise<void>;
  beginAct(act: TrailAct): Promise<BegunAct>;
  readonly csrf: CsrfTokens;
  readonly incoming: ReturnType<typeof createIncomingFiles>;
  /** What each kind of stream may hold. */
  readonly mostBytes: Readonly<Record<NonNullable<Endpoint['holds']>, number>>;
}

export function createRoutesOn(router: Router, gate: Gatekeeper): Routes {
  function add<E extends Endpoint>(endpoint: E, handler: Handler<E, Caller | undefined>): void {
    const verb = endpoint.method.toLowerCase() as Lowercase<Method>;
    router[verb](endpoint.path, async (req, res) => {
      const person = req.session.person === undefined ? undefined : await gate.callerOf(req.session.person);
      // Who is signed out is told so, and not that the request came from elsewhere.
      if (endpoint.access !== 'public' && !person) throw new DomainError('sign-in-required');
      if (endpoint.method !== 'GET') gate.csrf.check(req);
      if (endpoint.access !== 'public') requireRole(person, endpoint.access, req);
      const params = read(endpoint.params, req.params);
      if (person && hasSite(params)) await gate.requireSite(person.id, params.site);
      const query = read(endpoint.query, req.query);
      // Read only now: of whoever may not, nothing is taken in.
      if (endpoint.streams === undefined) await readJson(endpoint, req, res);
      const body = endpoint.streams === undefined ? read(endpoint.body, req.body ?? {}) : {};
      const stillMay = async () => {
        if (endpoint.access === 'public') return true;
        const now = person && (await gate.hasSession(req.sessionID)) ? await gate.callerOf(person.id) : undefined;
        if (!now || ROLES.indexOf(now.role) < ROLES.indexOf(endpoint.access)) return false;
        return !hasSite(params) || gate.requireSite(now.id, params.site).then(allowSite, denySite);
      };
      const incoming =
        endpoint.streams === undefined || !person
          ? undefined
          : await gate.incoming.take(req, person.id, gate.mostBytes[endpoint.holds ?? 'file']);
      let isKept = false;
      const upload: Upload | undefined = incoming && {
        sizeBytes: incoming.sizeBytes,
        read: incoming.read,
        keep: (): Incoming => {
          isKept = true;
          return incoming;
        },
      };
      try {
        const call = { params, query, body, person, req, res, stillMay, upload };
        const answer = await onTrail(endpoint, call, (note) =>
          handler({ ...call, note } as Call<E, Caller | undefined>),
        );
        if (answer === ANSWERED) return;
        await writeAnswer(res, endpoint, answer);
      } finally {
        if (!isKept) await incoming?.drop();
      }
    });
  }
  /** Written down before it is done, and how it ended afterwards. */
  async function onTrail<T>(
    endpoint: Endpoint,
    { person, params, req }: { person: Caller | undefined; params: unknown; req: Request },
    work: (note: (about: Part) => void) => Promise<T>,
  ): Promise<T> {
    let about: Part | undefined;
    const note = (words: Part) => void (about = words);
    if (endpoint.trail === undefined || !person) return work(note);
    const act = await gate.beginAct({
      team: person.team,
      kind: endpoint.trail,
      what: findAct(endpoint),
      person: person.id,
      who: person.name,
      address: req.ip ?? '',
      request: readRequestId(req),
      site: hasSite(params) ? params.site : undefined,
    });
    // What was done is done, also where this can no longer be written; it stands there as begun.
    const end = (outcome: string) =>
      act.end(outcome, about).catch((error: unknown) => req.log.warn({ err: error }, 'outcome of an act not kept'));
    try {
      const answer = await work(note);
      await end('done');
      return answer;
    } catch (error) {
      await end(error instanceof DomainError ? error.code : 'internal');
      throw error;
    }
  }
  return {
    open: add,
    on: (endpoint, handler) => {
      if (endpoint.access === 'public') throw new Error(`${endpoint.path} is public; use open()`);
      add(endpoint, (call) => handler({ ...call, person: call.person as Caller }));
    },
  };
}

const readers: Readonly<Record<'strangers' | 'usual' | 'large', RequestHandler>> = {
  strangers: express.json({ limit: STRANGERS_BODY_BYTES }),
  usual: express.json({ limit: BODY_BYTES }),
  large: express.json({ limit: LARGE_BODY_BYTES }),
};

/** Whoever sends JSON has it already; even the longest comes over a slow line in this time. */
const JSON_WITHIN_MS = 60_000;

async function readJson(endpoint: Endpoint, req: Request, res: Response): Promise<void> {
  if (endpoint.method === 'GET') return;
  const reader = readers[endpoint.access === 'public' ? 'strangers' : endpoint.isLarge ? 'large' : 'usual'];
  let late: NodeJS.Timeout | undefined;
  try {
    await new Promise<void>((resolve, reject) => {
      late = setTimeout(() => reject(new DomainError('upload-slow')), JSON_WITHIN_MS);
      reader(req, res, (error?: unknown) => (error ? reject(error as Error) : resolve()));
    });
  } finally {
    clearTimeout(late);
  }
}

const allowSite = () => true;
const denySite = () => false;

function requireRole(person: Caller | undefined, least: Role, req: Request): void {
  if (!person) throw new DomainError('sign-in-required');
  if (ROLES.indexOf(person.role) >= ROLES.indexOf(least)) return;
  req.log.warn({ person: person.id, role: person.role, least }, 'refused by role');
  throw new DomainError('not-allowed', { role: person.role });
}

function hasSite(params: unknown): params is { site: string } {
  return typeof params === 'object' && params !== null && 'site' in params && typeof params.site === 'string';
}

function read(schema: z.ZodType, value: unknown): unknown {
  const parsed = schema.safeParse(value);
  if (parsed.success) return parsed.data;
  const issue = parsed.error.issues[0];
  throw new DomainError('input-invalid', {
    detail: issue ? `${issue.path.join('.')}${issue.path.length > 0 ? ': ' : ''}${issue.message}` : 'unreadable',
  });
}
