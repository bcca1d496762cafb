/**
 * An endpoint as both sides know it: the server routes by it and checks what comes in and what goes
 * out, the web calls by it and checks what comes back, the OpenAPI document is made from it.
 */
import type { z } from 'zod';

/** From the least to the most. A client is somebody outside the team, who sees what is shown to them of one site. */
export const ROLES = ['client', 'reviewer', 'editor', 'owner'] as const;
export type Role = (typeof ROLES)[number];

/** What the audit trail calls what it is kept for. */
/** As RFC 9110 section 9.3 and RFC 5789 mean them: PUT makes what it names as the body says, PATCH changes what it says of it. */
export type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';

export const TRAIL_KINDS = ['sign-in', 'account', 'people', 'sites', 'hosts', 'releases', 'secrets'] as const;
export type TrailKind = (typeof TRAIL_KINDS)[number];

/** Who may call: nobody in particular, anyone signed in, or at least that role. */
export type Access = 'public' | Role;

export interface Endpoint<
  Params extends z.ZodType = z.ZodType,
  Query extends z.ZodType = z.ZodType,
  Body extends z.ZodType = z.ZodType,
  Answer extends z.ZodType = z.ZodType,
> {
  readonly method: Method;
  /** With `:name` for each parameter, below `/api`. */
  readonly path: string;
  readonly summary: string;
  readonly access: Access;
  readonly params: Params;
  readonly query: Query;
  /** What a JSON body holds; endpoints that take a stream name its media type instead. */
  readonly body: Body;
  readonly streams?: string;
  /** How much the stream may hold; the configuration has the bytes. */
  readonly holds?: 'file' | 'site' | 'log';
  /** Holds lists of a whole site, so that its JSON may be up to LARGE_BODY_BYTES. */
  readonly isLarge?: true;
  /** What is done by it stands in the audit trail, under this. */
  readonly trail?: TrailKind;
  /** Media type of an answer that is no JSON. */
  readonly gives?: string;
  readonly answer: Answer;
  readonly status: 200 | 201 | 202;
}

/** What a JSON body may hold: of whoever has not signed in, of others, and where lists of a whole site come in. */
export const STRANGERS_BODY_BYTES = 16 * 1024; // 16 KiB
export const BODY_BYTES = 512 * 1024; // 512 KiB
export const LARGE_BODY_BYTES = 16 * 1024 * 1024; // 16 MiB

type AnyEndpoint = Endpoint;
export type ParamsOf<E extends AnyEndpoint> = z.output<E['params']>;
export type QueryOf<E extends AnyEndpoint> = z.output<E['query']>;
export type BodyOf<E extends AnyEndpoint> = z.output<E['body']>;
export type AnswerOf<E extends AnyEndpoint> = z.output<E['answer']>;
