/** Where old addresses lead. */
import type { Definitions } from '@fastigium/core/messages';
import { z } from 'zod';
import { id } from '../id.ts';
import { fragment, newest } from './parts.ts';

export const redirectTarget = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('home') }),
  z.object({ kind: z.literal('page'), page: id, fragment, newest }),
  z.object({ kind: z.literal('address'), address: z.string().min(1).max(2000) }),
  z.object({ kind: z.literal('url'), url: z.url({ protocol: /^https?$/ }).max(2000) }),
]);
/** Absent: as written, and the visitor's query is kept. */
const ruleOptions = {
  dropsQuery: z.boolean().optional(),
  ignoreCase: z.boolean().optional(),
  anySlash: z.boolean().optional(),
};
/** For people: why it is there, and the last day it holds. */
const ruleTerm = {
  note: z.string().trim().max(500, 'use at most 500 letters').optional(),
  until: z.iso.date('write the day as 2027-03-31').optional(),
};
const movingStatus = z.union([z.literal(301), z.literal(302), z.literal(307), z.literal(308)]);
const patternFields = {
  text: z.string().min(1).max(2000),
  status: z.union([movingStatus, z.literal(410)]),
  target: z.string().max(2000).nullable(),
  ignoreCase: z.boolean(),
  dropsQuery: z.boolean(),
  ...ruleTerm,
};

export const redirectRequests = [
  z.object({
    kind: z.literal('redirect'),
    from: z.string().max(4000),
    to: z.union([z.object({ status: movingStatus, target: redirectTarget }), z.object({ status: z.literal(410) })]),
    ...ruleOptions,
    ...ruleTerm,
  }),
  z.object({
    kind: z.literal('redirects'),
    settle: z
      .array(
        z.object({
          from: z.string().max(4000),
          to: z.union([
            z.object({ status: movingStatus, target: redirectTarget }),
            z.object({ status: z.literal(410) }),
          ]),
          ...ruleOptions,
          ...ruleTerm,
        }),
      )
      .max(100_000),
    remove: z.array(z.string().max(4000)).max(100_000),
    /** New ones, behind all others. */
    patterns: z.array(z.object(patternFields)).max(10_000).optional(),
  }),
  z.object({
    kind: z.literal('chains-flattened'),
    /** Old addresses; null for all. */ addresses: z.array(z.string().max(4000)).min(1).max(100_000).nullable(),
  }),
  z.object({ kind: z.literal('redirect-removed'), from: z.string().max(4000) }),
  z.object({
    kind: z.literal('pattern'),
    /** Null for a new one. */ id: id.nullable(),
    ...patternFields,
  }),
  z.object({ kind: z.literal('pattern-removed'), id }),
  z.object({ kind: z.literal('patterns-ordered'), ids: z.array(id).max(10_000) }),
] as const;

export const redirectMessages = {
  'redirect-set': { from: 'text', to: 'text', status: 'number' },
  'redirect-gone': { from: 'text' },
  'redirects-set': { parts: 'series' },
  'part-patterns': { count: 'number' },
  'part-redirected': { count: 'number' },
  'part-gone': { count: 'number' },
  'part-left-to-pattern': { count: 'number' },
  'part-open-again': { count: 'number' },
  'redirect-removed': { from: 'text' },
  /** `from`: the first of them. */
  flattened: { count: 'number', from: 'text' },
  'pattern-set': { pattern: 'text', to: 'text', status: 'number' },
  'pattern-gone': { pattern: 'text' },
  'pattern-removed': { pattern: 'text' },
  'patterns-ordered': {},
  'redirects-came': { count: 'number' },
} as const satisfies Definitions;
