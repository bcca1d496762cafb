import { z } from 'zod';
import { ADDRESS_STYLES } from '@fastigium/core/address';
import { PART_NAMES } from '@fastigium/core/html';
import { endpoint } from '../define.ts';
import { decisionMessage, id, instant, menuMessage, personRef, siteParams, version } from './common.ts';
import { entryRequest } from './visitors.ts';
import { removalRequests } from './removalRequests.ts';

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

/** Element of a page, without its `#`. */
const fragment = z.string().min(1).max(200).optional();
/** Not the page itself, which is a list, but the newest entry in it. */
const newest = z.literal(true).optional();
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

const place = { parent: id.nullable(), after: id.nullable() };
const title = z.string().trim().max(1000, 'use at most 1,000 letters');

const menuTarget = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('home') }),
  z.object({ kind: z.literal('page'), page: id, fragment, newest }),
  /** It heads what is below it, or leads nowhere yet. */
  z.object({ kind: z.literal('none') }),
  z.object({
    kind: z.literal('address'),
    address: z.string().regex(/^\//, 'an address of the site begins with a slash').max(2000),
  }),
  z.object({ kind: z.literal('url'), url: z.url({ protocol: /^(https?|mailto|tel)$/ }).max(2000) }),
]);
const menuItemFields = {
  /** The removal that took it out; it keeps its place. */ removed: z.number().int().min(1).optional(),
  target: menuTarget,
  was: z.string().max(4000).optional(),
  label: z.string().trim().min(1, 'an item needs a label').max(200),
  newWindow: z.boolean(),
};
const leafItem = z.object({ ...menuItemFields, children: z.array(z.never()).max(0) });
/** Three levels are as deep as menus go. */
export const menuItem = z.object({
  ...menuItemFields,
  children: z.array(z.object({ ...menuItemFields, children: z.array(leafItem).max(100) })).max(100),
});
export type MenuItemRequest = z.infer<typeof menuItem>;

export const anchor = z.object({
  tag: z.string().max(100),
  what: z.enum(['text', 'element']),
  mark: z.string().max(20_000),
  nth: z.number().int().min(0),
  under: z.string().max(20_000),
  way: z.string().max(4000),
});
export const scope = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('page'), page: id }),
  z.object({ kind: z.literal('branch'), page: id }),
  z.object({ kind: z.literal('everywhere') }),
]);
const section = z.object({ name: z.string().max(20_000), nth: z.number().int().min(0) });
const fileAddress = z.string().regex(/^\/./, 'a file of the site begins with a slash').max(2000);
const touchedAttribute = z.string().max(2000).nullable().optional();
const linkTarget = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('home') }),
  z.object({ kind: z.literal('page'), page: id, fragment: z.string().max(200).optional(), newest }),
  z.object({ kind: z.literal('file'), address: fileAddress }),
  z.object({ kind: z.literal('url'), url: z.url({ protocol: /^(https?|mailto|tel)$/ }).max(2000) }),
]);
/** `</style` would end the rules and let markup in (HTML standard, section 13.1.2.1). */
const css = z
  .string()
  .max(20_000)
  .refine((text) => !/<\/style|<!--/i.test(text), 'style rules hold no markup');
export const touch = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('text'),
    scope,
    place: anchor,
    to: z.string().trim().min(1, 'a text cannot be empty; leave the section out instead').max(20_000),
  }),
  z.object({
    kind: z.literal('attributes'),
    scope,
    place: anchor,
    set: z.object({
      alt: touchedAttribute,
      width: touchedAttribute,
      height: touchedAttribute,
      title: touchedAttribute,
      rel: touchedAttribute,
      target: touchedAttribute,
      lang: touchedAttribute,
    }),
  }),
  z.object({
    kind: z.literal('link'),
    scope,
    place: anchor,
    target: linkTarget.optional(),
    newWindow: z.boolean().optional(),
    leads: z.string().max(4000).optional(),
  }),
  z.object({
    kind: z.literal('picture'),
    scope,
    from: fileAddress,
    to: fileAddress,
    alt: z.string().max(2000).optional(),
    size: z.object({ widthPx: z.number().int().min(1), heightPx: z.number().int().min(1) }).optional(),
  }),
  z.object({
    kind: z.literal('sections'),
    scope,
    order: z.array(section.extend({ out: z.literal(true).optional() })).max(1000),
  }),
  z.object({ kind: z.literal('parts-out'), scope, parts: z.array(z.enum(PART_NAMES)).max(PART_NAMES.length) }),
  z.object({ kind: z.literal('css'), scope, css }),
  z.object({
    kind: z.literal('embed'),
    scope,
    file: fileAddress,
    label: z.string().trim().min(1, 'a link needs words').max(300),
    mediaType: z.string().max(200),
    after: section.optional(),
  }),
  z.object({
    kind: z.literal('head'),
    scope,
    line: z.enum(['charset', 'viewport', 'language']),
    value: z.string().trim().min(1).max(200),
  }),
]);
export type TouchRequest = z.infer<typeof touch>;

/** Null: what is there is taken back; false: nothing is to stand there. */
export const headSetting = z.object({
  scope,
  name: z.string().min(1).max(200),
  text: z.union([z.string().max(512 * 1024), z.literal(false)]).nullable(),
  own: z.enum(['kept', 'replaced']).nullable().default(null),
});
export type HeadSettingRequest = z.input<typeof headSetting>;

/** What the web may ask for; the server adds what only it knows and records a core decision. */
export const decisionRequest = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('title'), page: id, title }),
  z.object({
    kind: z.literal('home'),
    page: id,
    /** Where the page goes that came in as home; without it, one made from its heading. */ formerAddress: z
      .string()
      .trim()
      .max(2000)
      .optional(),
  }),
  z.object({ kind: z.literal('rename'), page: id, address: z.string().trim().max(2000) }),
  z.object({ kind: z.literal('place'), node: id, ...place, keepAddress: z.boolean().default(false) }),
  z.object({ kind: z.literal('duplicate'), page: id, title }),
  z.object({ kind: z.literal('add-page'), title, text: z.string().max(20_000), like: id, ...place }),
  z.object({ kind: z.literal('add-group'), title, ...place }),
  z.object({ kind: z.literal('add-link'), title, url: z.url({ protocol: /^https?$/ }).max(2000), ...place }),
  z.object({ kind: z.literal('node-removed'), node: id }),
  z.object({ kind: z.literal('ready'), page: id, ready: z.boolean() }),
  z.object({ kind: z.literal('in-menus'), page: id, shown: z.boolean() }),
  z.object({ kind: z.literal('address-style'), style: z.enum(ADDRESS_STYLES) }),
  z.object({ kind: z.literal('touch'), touch }),
  z.object({ kind: z.literal('touch-removed'), of: z.number().int().min(1) }),
  z.object({
    kind: z.literal('menu'),
    menu: z.string().max(4000),
    items: z.array(menuItem).max(200),
    whereItDiffers: z.boolean(),
  }),
  z.object({ kind: z.literal('menu-removed'), menu: z.string().max(4000) }),
  z.object({ kind: z.literal('listing'), page: id, perPage: z.number().int().min(1).max(1000) }),
  z.object({ kind: z.literal('listing-removed'), page: id }),
  z.object({ kind: z.literal('head'), settings: z.array(headSetting).min(1).max(100_000) }),
  z.object({ kind: z.literal('icons-removed') }),
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
  z.object({ kind: z.literal('base-path'), path: z.string().max(200) }),
  ...removalRequests,
  /** Null for the whole site; an entry of null takes back what was said. */
  z.object({ kind: z.literal('entry'), place: id.nullable(), entry: entryRequest.nullable() }),
  z.object({ kind: z.literal('shown-instead'), page: id.nullable() }),
  z.object({ kind: z.literal('last-day'), day: z.iso.date('write the day as 2027-03-31').nullable() }),
  z.object({ kind: z.literal('undo'), of: z.number().int().min(1) }),
  z.object({ kind: z.literal('step'), direction: z.enum(['back', 'forward']) }),
]);
export type DecisionRequest = z.infer<typeof decisionRequest>;

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
  pages: endpoint('GET /sites/:site/pages', {
    summary: 'Pages of the draft as a tree',
    access: 'reviewer',
    params: siteParams,
    answer: pages,
  }),
  decide: endpoint('POST /sites/:site/decisions', {
    isLarge: true,
    summary: 'Change the draft',
    access: 'editor',
    params: siteParams,
    body: z.object({ version, decision: decisionRequest }),
    answer: decided,
    status: 201,
  }),
  history: endpoint('GET /sites/:site/history', {
    summary: 'Decisions, newest first, as many as are read at once',
    access: 'reviewer',
    params: siteParams,
    query: z.object({ /** Only those before this one. */ before: z.coerce.number().int().min(1).optional() }),
    answer: z.object({ rows: z.array(historyRow), /** There are earlier ones. */ more: z.boolean() }),
  }),
  prove: endpoint('POST /sites/:site/proofs', {
    summary: 'Ask the draft for an address and follow it',
    access: 'reviewer',
    params: siteParams,
    body: z.object({ address: z.string().min(1).max(4000) }),
    answer: proof,
  }),
  previewLink: endpoint('POST /sites/:site/previews', {
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
