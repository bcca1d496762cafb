import { z } from 'zod';
import type { Access, Endpoint, Method, TrailKind } from './endpoint.ts';

const nothing = z.object({});

interface Spec<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, A extends z.ZodType> {
  summary: string;
  access: Access;
  params?: P;
  query?: Q;
  body?: B;
  streams?: string;
  holds?: 'file' | 'site' | 'log';
  isLarge?: true;
  trail?: TrailKind;
  gives?: string;
  answer: A;
  status?: 200 | 201 | 202;
}

/** Fills in what an endpoint leaves out. */
export function defineEndpoint<
  A extends z.ZodType,
  P extends z.ZodType = typeof nothing,
  Q extends z.ZodType = typeof nothing,
  B extends z.ZodType = typeof nothing,
>(line: `${Method} /${string}`, spec: Spec<P, Q, B, A>): Endpoint<P, Q, B, A> {
  const [method, path] = line.split(' ') as [Method, string];
  return {
    method,
    path,
    summary: spec.summary,
    access: spec.access,
    params: spec.params ?? (nothing as unknown as P),
    query: spec.query ?? (nothing as unknown as Q),
    body: spec.body ?? (nothing as unknown as B),
    ...(spec.streams === undefined ? {} : { streams: spec.streams }),
    ...(spec.holds === undefined ? {} : { holds: spec.holds }),
    ...(spec.isLarge === undefined ? {} : { isLarge: spec.isLarge }),
    ...(spec.trail === undefined ? {} : { trail: spec.trail }),
    ...(spec.gives === undefined ? {} : { gives: spec.gives }),
    answer: spec.answer,
    status: spec.status ?? 200,
  };
}
