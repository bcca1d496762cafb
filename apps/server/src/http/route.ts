/**
 * Routes from endpoints: who may call, what comes in and what goes out are checked here, once, so a
 * handler starts from facts and cannot answer anything but what the contract says.
 */
import type { AnswerOf, BodyOf, Endpoint, ParamsOf, QueryOf, Role } from '@fastigium/contracts/endpoint';
import { ROLES } from '@fastigium/contracts/endpoint';
import { DomainError } from '@fastigium/contracts/errors';
import type { Request, Response, Router } from 'express';
import { type z } from 'zod';
import type { Caller } from './caller.ts';
import { checkCsrf } from './csrf.ts';

export interface Call<E extends Endpoint, P = Caller> {
  readonly params: ParamsOf<E>;
  readonly query: QueryOf<E>;
  readonly body: BodyOf<E>;
  readonly person: P;
  readonly req: Request;
  readonly res: Response;
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
  /** Throws where the team has no such site. */
  requireSite(team: string, site: string): Promise<void>;
}

export function routesOn(router: Router, gate: Gatekeeper): Routes {
  function add<E extends Endpoint>(endpoint: E, handler: Handler<E, Caller | undefined>): void {
    const verb = endpoint.method.toLowerCase() as 'get' | 'post' | 'delete';
    router[verb](endpoint.path, async (req, res) => {
      const person = req.session.person === undefined ? undefined : await gate.callerOf(req.session.person);
      if (endpoint.method !== 'GET') checkCsrf(req);
      if (endpoint.access !== 'public') requireRole(person, endpoint.access);
      const params = read(endpoint.params, req.params);
      if (person && hasSite(params)) await gate.requireSite(person.team, params.site);
      const query = read(endpoint.query, req.query);
      const body = endpoint.streams === undefined ? read(endpoint.body, req.body ?? {}) : {};
      const answer = await handler({ params, query, body, person, req, res } as Call<E, Caller | undefined>);
      if (answer === ANSWERED) return;
      res.status(endpoint.status).json(endpoint.answer.parse(answer));
    });
  }
  return {
    open: add,
    on: (endpoint, handler) => {
      if (endpoint.access === 'public') throw new Error(`${endpoint.path} is public; use open()`);
      add(endpoint, (call) => handler({ ...call, person: call.person as Caller }));
    },
  };
}

function requireRole(person: Caller | undefined, least: Role): void {
  if (!person) throw new DomainError('sign-in-required');
  if (ROLES.indexOf(person.role) < ROLES.indexOf(least)) throw new DomainError('not-allowed', { role: person.role });
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
