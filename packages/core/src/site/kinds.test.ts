/** What follows from a decision of each kind, beside what it does to the draft. What that is, is this project's own. */
import { describe, expect, it } from 'vitest';
import { isFact, findDecisionKind, type Decision } from './index.ts';

const KINDS: readonly Decision['kind'][] = [
  'title',
  'source',
  'ready',
  'in-menus',
  'place',
  'node-added',
  'node-removed',
  'home',
  'address',
  'address-style',
  'base-path',
  'menu',
  'menu-removed',
  'listing',
  'listing-removed',
  'touch',
  'touch-removed',
  'asset-added',
  'head',
  'icons',
  'redirect',
  'redirects',
  'redirect-removed',
  'pattern',
  'pattern-removed',
  'patterns-ordered',
  'removed',
  'put-back',
  'swept',
  'removals-held',
  'removals-freed',
  'entry',
  'shown-instead',
  'last-day',
  'export-taken',
  'crawled',
  'undo',
];
const those = (is: (kind: Decision['kind']) => boolean) => KINDS.filter(is);

describe('a kind of decision', () => {
  it('is a fact where nobody decided it', () =>
    expect(those((kind) => isFact({ kind }))).toEqual(['swept', 'export-taken', 'crawled']));

  it('teaches about open addresses where it settles or opens some', () =>
    expect(those((kind) => findDecisionKind({ kind }).settlesAddresses === true)).toEqual([
      'redirect',
      'redirects',
      'redirect-removed',
    ]));

  it('changes until when something is kept where it removes, puts back, holds or takes back', () =>
    expect(those((kind) => findDecisionKind({ kind }).changesKeeping === true)).toEqual([
      'removed',
      'put-back',
      'removals-held',
      'removals-freed',
      'undo',
    ]));
});
