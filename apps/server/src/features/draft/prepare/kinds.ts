/** Every kind of decision that can be asked for, and how it is prepared. */
import { decision as decided } from '@fastigium/contracts/messages/decision';
import type { DecisionRequest } from '@fastigium/contracts/decisions/request';
import type { Touch } from '@fastigium/core/touches';
import { prepareBasePath } from './basePath.ts';
import { prepareFlattened } from './flatten.ts';
import { prepareHead } from './head.ts';
import { prepareFreed, prepareHeld } from './hold.ts';
import { prepareHome } from './home.ts';
import { prepareListing, prepareListingRemoved } from './listings.ts';
import { prepareMenu, prepareMenuRemoved } from './menus.ts';
import { preparePattern, preparePatternRemoved, preparePatternsOrdered } from './patterns.ts';
import { preparePutBack } from './putBack.ts';
import { prepareRedirect, prepareRedirectRemoved, prepareRedirects } from './redirects.ts';
import { prepareRemove } from './remove.ts';
import type { Prepared, Situation } from './situation.ts';
import { prepareTake, prepareTextOfFile } from './take.ts';
import { prepareTouch, prepareTouchRemoved } from './touches.ts';
import {
  prepareDuplicate,
  prepareInMenus,
  prepareNewPage,
  prepareNode,
  prepareNodeRemoved,
  preparePlace,
  prepareReady,
  prepareRename,
  prepareStyle,
  prepareTitle,
} from './tree.ts';
import { prepareStep, prepareUndo } from './undo.ts';
import { prepareEntry, prepareLastDay, prepareShownInstead } from './visitors.ts';

type Requested<K extends DecisionRequest['kind']> = Extract<DecisionRequest, { readonly kind: K }>;

interface RequestKind<R> {
  /** Throws a DomainError where it cannot be done as the draft stands. */
  prepare(situation: Situation, request: R): Prepared | Promise<Prepared>;
  /** What it does depends on everything that was decided before. */
  readonly needsLatest?: true;
}

const KINDS: { readonly [K in DecisionRequest['kind']]: RequestKind<Requested<K>> } = {
  title: { prepare: prepareTitle },
  home: { prepare: prepareHome },
  rename: { prepare: prepareRename },
  place: { prepare: preparePlace },
  duplicate: { prepare: prepareDuplicate },
  'add-page': { prepare: prepareNewPage },
  'add-group': { prepare: prepareNode },
  'add-link': { prepare: prepareNode },
  'node-removed': { prepare: prepareNodeRemoved },
  ready: { prepare: prepareReady },
  'in-menus': { prepare: prepareInMenus },
  'address-style': { prepare: prepareStyle },
  'base-path': { prepare: (situation, { path }) => prepareBasePath(situation, path) },
  touch: { prepare: (situation, { touch }) => prepareTouch(situation, touch as Touch) },
  'touch-removed': { prepare: (situation, { of: touch }) => prepareTouchRemoved(situation, touch) },
  menu: { prepare: prepareMenu },
  'menu-removed': { prepare: (situation, { menu }) => prepareMenuRemoved(situation, menu) },
  listing: { prepare: prepareListing },
  'listing-removed': { prepare: (situation, { page }) => prepareListingRemoved(situation, page) },
  head: { prepare: prepareHead },
  'icons-removed': {
    prepare: () => ({ decision: { kind: 'icons', icons: [] }, message: decided('icons-removed') }),
  },
  redirect: { prepare: prepareRedirect },
  redirects: { prepare: prepareRedirects },
  'chains-flattened': {
    needsLatest: true,
    prepare: (situation, { addresses }) => prepareFlattened(situation, addresses),
  },
  'redirect-removed': { prepare: prepareRedirectRemoved },
  pattern: { prepare: preparePattern },
  'pattern-removed': { prepare: (situation, { id }) => preparePatternRemoved(situation, id) },
  'patterns-ordered': { prepare: (situation, { ids }) => preparePatternsOrdered(situation, ids) },
  remove: { prepare: prepareRemove },
  'put-back': { prepare: preparePutBack },
  'take-from-release': { prepare: prepareTake },
  'text-of-file': { prepare: (situation, { page }) => prepareTextOfFile(situation, page) },
  'hold-removals': { prepare: prepareHeld },
  'free-removals': { prepare: prepareFreed },
  entry: { prepare: prepareEntry },
  'shown-instead': { prepare: prepareShownInstead },
  'last-day': { prepare: prepareLastDay },
  undo: { prepare: (situation, { of: decision }) => prepareUndo(situation, decision) },
  step: { needsLatest: true, prepare: (situation, { direction }) => prepareStep(situation, direction) },
};

/** The definition of a request's kind, which takes requests of that kind. */
export function findRequestKind<K extends DecisionRequest['kind']>(request: {
  readonly kind: K;
}): RequestKind<Requested<K>> {
  return KINDS[request.kind] as unknown as RequestKind<Requested<K>>;
}
