/** Changing the draft: a request is checked against the draft as it stands and recorded as a decision. */
import type { DecisionRequest } from '@fastigium/contracts/api/draft';
import { DomainError } from '@fastigium/contracts/errors';
import { foldDecisions } from '@fastigium/core/site';
import type { Touch } from '@fastigium/core/touches';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { enqueue } from '../../jobs/queue.ts';
import { history, siteState } from './history.ts';
import { prepareBasePath } from './prepare/basePath.ts';
import { prepareHead } from './prepare/head.ts';
import { prepareHome } from './prepare/home.ts';
import { prepareListing, prepareListingRemoved } from './prepare/listings.ts';
import { prepareMenu, prepareMenuRemoved } from './prepare/menus.ts';
import { prepareRedirect, prepareRedirectRemoved } from './prepare/redirects.ts';
import type { Prepared, Situation } from './prepare/situation.ts';
import { prepareTouch, prepareTouchRemoved } from './prepare/touches.ts';
import { prepareDuplicate, prepareInMenus, prepareNewPage, prepareNode, prepareNodeRemoved, preparePlace, prepareReady, prepareRename, prepareStyle, prepareTitle } from './prepare/tree.ts';
import { prepareStep, prepareUndo } from './prepare/undo.ts';

export async function decide(
  deps: Deps, site: string, by: { id: string; name: string }, request: { version: number; decision: DecisionRequest },
): Promise<{ version: number; words: string; made: string | null }> {
  return deps.db.transaction(async (tx) => {
    const state = await siteState(tx, site, 'for update');
    if (state.currentImport === null) throw new DomainError('nothing-imported');
    if (state.version !== request.version) throw new DomainError('draft-stale', { version: state.version });
    const decisions = await history(tx, site);
    const version = state.version + 1;
    const situation = { tx, deps, site, importId: state.currentImport, decisions, draft: foldDecisions(decisions), seq: version };
    const { decision, words, made } = await prepare(situation, request.decision);
    await tx.run('insert into decision (site_id, seq, body, words, by) values ($1, $2, $3, $4, $5)', [
      site, version, JSON.stringify(decision), words, by.id,
    ]);
    await tx.run('update site set version = $2 where id = $1', [site, version]);
    await announce(tx, { kind: 'draft', site, version, by: by.name });
    await compileSoon(tx, site, by.id);
    return { version, words, made: made ?? null };
  });
}

/** One waiting compile is enough: it takes up everything decided until it starts. */
export async function compileSoon(tx: Queries, site: string, by: string): Promise<void> {
  const waiting = await tx.maybeOne(`select 1 from job where site_id = $1 and kind = 'compile' and state = 'waiting' limit 1`, [site]);
  if (!waiting) await enqueue(tx, { kind: 'compile', site, body: {}, by });
}

async function prepare(situation: Situation, request: DecisionRequest): Promise<Prepared> {
  switch (request.kind) {
    case 'title': return prepareTitle(situation, request);
    case 'home': return prepareHome(situation, request);
    case 'rename': return prepareRename(situation, request);
    case 'place': return preparePlace(situation, request);
    case 'duplicate': return prepareDuplicate(situation, request);
    case 'add-page': return prepareNewPage(situation, request);
    case 'add-group': case 'add-link': return prepareNode(situation, request);
    case 'node-removed': return prepareNodeRemoved(situation, request);
    case 'ready': return prepareReady(situation, request);
    case 'in-menus': return prepareInMenus(situation, request);
    case 'address-style': return prepareStyle(situation, request);
    case 'touch': return prepareTouch(situation, request.touch as Touch);
    case 'touch-removed': return prepareTouchRemoved(situation, request.of);
    case 'menu': return prepareMenu(situation, request);
    case 'menu-removed': return prepareMenuRemoved(situation, request.menu);
    case 'listing': return prepareListing(situation, request);
    case 'listing-removed': return prepareListingRemoved(situation, request.page);
    case 'head': return prepareHead(situation, request);
    case 'icons-removed': return { decision: { kind: 'icons', icons: [] }, words: 'Icons taken away' };
    case 'redirect': return prepareRedirect(situation, request);
    case 'redirect-removed': return prepareRedirectRemoved(situation, request);
    case 'base-path': return prepareBasePath(situation, request.path);
    case 'undo': return prepareUndo(situation, request.of);
    case 'step': return prepareStep(situation, request.direction);
  }
}
