import { z } from 'zod';
import { ADDRESS_STYLES } from '@fastigium/core/address';
import { defineEndpoint } from '../define.ts';
import { decisionRequest } from '../decisions/request.ts';
import { id } from '../id.ts';
import { decisionMessage, instant, menuMessage, personRef, siteParams, version } from './common.ts';

export const pageRow = z.object({
  id,
  kind: z.enum(['page', 'group', 'link']),
  /** Empty for a group or an outside link. */
  sourcePath: z.string(),
  /** Of an outside link, where it leads; of a group, empty. */
  address: z.string(),
  depth: z.number().int(),
  parent: id.nullable(),
  title: z.string(),
  /** The title without what all titles of the site end in. */
  label: z.string(),
  isAdded: z.boolean(),
  isReady: z.boolean(),
  inMenus: z.boolean(),
  /** Names of the menus it stands in. */
  menus: z.array(menuMessage),
  /** What each item that leads to it says. */
  menuWords: z.array(z.object({ menu: z.string(), name: menuMessage, label: z.string() })),
  /** The day in its `<time>`, for entries of a listing. */
  date: z.string().nullable(),
  /** Entries a listing page lists. */
  lists: z.number().int().nullable(),
  touches: z.number().int(),
  /** The title in the imported source, where it differs from the one set here. */
  importedTitle: z.string().nullable(),
  language: z.string().nullable(),
  isHome: z.boolean(),
  /** Against the live release: as it is there, different, or not there yet. */
  state: z.enum(['live', 'changed', 'new']),
  linksIn: z.number().int(),
  /** The release whose text it has in place of its file's. */
  textOf: z.number().int().nullable(),
});
export type PageRow = z.infer<typeof pageRow>;

/** A removed page, group or outside link in the place it keeps. */
export const removedRow = pageRow.extend({
  /** The removal that took it out. */
  removal: z.number().int(),
  /** Its place among its neighbours, from 1, the removed ones counted. */
  nth: z.number().int(),
  /** The name of what it stands below; empty at the top. */
  under: z.string(),
  /** The row that stands next behind it in the tree; null at the end. */
  before: id.nullable(),
  by: personRef,
  at: instant,
  keptUntil: instant.nullable(),
});
export type RemovedRow = z.infer<typeof removedRow>;

export const pages = z.object({
  version,
  style: z.enum(ADDRESS_STYLES),
  pages: z.array(pageRow),
  /** In the tree's order. */ removed: z.array(removedRow),
});

/** `made`: what the decision brought into being, such as a page. */
export const decided = z.object({ version, message: decisionMessage, made: id.nullable() });
export type Decided = z.infer<typeof decided>;

export const historyRow = z.object({
  seq: z.number().int(),
  message: decisionMessage,
  /** Null where a time limit did it. */ by: personRef.nullable(),
  at: instant,
  undone: z.boolean(),
  /** False for facts, such as a newer export applied: there is no step to take back. */ isStep: z.boolean(),
});

export type HistoryRow = z.infer<typeof historyRow>;

export const hop = z.object({ address: z.string(), status: z.number().int(), location: z.string().nullable() });
export const proof = z.object({
  hops: z.array(hop),
  end: z.enum(['page', 'gone', 'missing', 'outside', 'loop']),
  /** Title of the page it lands on. */
  title: z.string().nullable(),
});
export type Proof = z.infer<typeof proof>;

export const draftApi = {
  pages: defineEndpoint('GET /sites/:site/pages', {
    summary: 'Pages of the draft as a tree',
    access: 'reviewer',
    params: siteParams,
    answer: pages,
  }),
  decide: defineEndpoint('POST /sites/:site/decisions', {
    isLarge: true,
    summary: 'Change the draft',
    access: 'editor',
    params: siteParams,
    body: z.object({ version, decision: decisionRequest }),
    answer: decided,
    status: 201,
  }),
  history: defineEndpoint('GET /sites/:site/history', {
    summary: 'Decisions, newest first, as many as are read at once',
    access: 'reviewer',
    params: siteParams,
    query: z.object({ /** Only those before this one. */ before: z.coerce.number().int().min(1).optional() }),
    answer: z.object({ rows: z.array(historyRow), /** There are earlier ones. */ more: z.boolean() }),
  }),
  prove: defineEndpoint('POST /sites/:site/proofs', {
    summary: 'Ask the draft for an address and follow it',
    access: 'reviewer',
    params: siteParams,
    body: z.object({ address: z.string().min(1).max(4000) }),
    answer: proof,
  }),
  previewLink: defineEndpoint('POST /sites/:site/previews', {
    summary: 'An address, good for a while, that shows the draft on an origin of its own',
    access: 'reviewer',
    params: siteParams,
    answer: z.object({
      origins: z.object({
        seen: z.string(),
        still: z.string(),
        /** What is removed, as it was. */ away: z.string(),
        /** A release as it was; its number goes in for NUMBER. */ release: z.string(),
        pointing: z.string(),
      }),
      until: instant,
    }),
  }),
};
