/** Adding up a history of decisions. */
import { settingKey, type HeadSetting } from '../head/index.ts';
import type { Redirect } from '../redirects/index.ts';
import { touchIdentity, type Touch } from '../touches/index.ts';
import { activeDecisions, type Addresses, type Decision, type RecordedDecision } from './decisions.ts';
import type { PageId } from './pageId.ts';
import { fresh, type Draft, type MutableDraft } from './draft.ts';
import { setHome } from './home.ts';
import { hold, orderPatterns, putBack, remove, setPattern, settleMenus, sweep, type Folding } from './removals.ts';

/** Adds up a history. The same history gives the same draft, on whatever machine. */
export function foldDecisions(history: readonly RecordedDecision[]): Draft {
  const draft = fresh();
  const folding: Folding = {
    homeReturns: { to: undefined },
    homeChanges: new Map(),
    patternOrder: new Set(),
    undecidedMenus: new Map(),
    swept: new Set(),
  };
  for (const { seq, decision } of activeDecisions(history)) apply(draft, decision, seq, folding);
  settleMenus(draft, folding);
  return draft;
}

function apply(draft: MutableDraft, decision: Decision, seq: number, folding: Folding): void {
  switch (decision.kind) {
    case 'title':
      draft.titles.set(decision.page, decision.title);
      return;
    case 'home':
      setHome(draft, decision, folding.homeReturns);
      return;
    case 'address':
      readdress(draft, decision.addresses);
      return;
    case 'place':
      draft.places.push([decision.node, decision.place]);
      readdress(draft, decision.addresses);
      return;
    case 'node-added':
      draft.nodes.set(decision.node.id, decision.node);
      draft.places.push([decision.node.id, decision.place]);
      if (decision.title !== undefined) draft.titles.set(decision.node.id, decision.title);
      for (const from of decision.unsettled ?? []) unsettle(draft, from);
      if (decision.node.kind === 'page') {
        draft.addresses.set(decision.node.id, decision.node.address);
        if (decision.node.copyOf !== undefined) {
          copyTouches(draft, decision.node.copyOf, decision.node.id, seq);
          copyHead(draft, decision.node.copyOf, decision.node.id);
        }
      }
      return;
    case 'source':
      if (decision.source) draft.sources.set(decision.page, decision.source);
      else draft.sources.delete(decision.page);
      if (decision.title !== undefined) draft.titles.set(decision.page, decision.title);
      return;
    case 'node-removed':
      draft.removed.set(decision.node, seq);
      return;
    case 'ready':
      setMember(draft.notReady, decision.page, !decision.ready);
      return;
    case 'in-menus':
      setMember(draft.hidden, decision.page, !decision.shown);
      return;
    case 'address-style':
      draft.formerStyles.add(draft.style);
      draft.formerStyles.delete(decision.style);
      draft.style = decision.style;
      return;
    case 'asset-added':
      draft.assets.set(decision.path, { hash: decision.hash, sizeBytes: decision.sizeBytes });
      return;
    case 'touch':
      forgetLike(draft, decision.touch);
      draft.touches.set(seq, decision.touch);
      return;
    case 'touch-removed':
      draft.touches.delete(decision.of);
      return;
    case 'menu':
      draft.menus.set(decision.menu, { items: decision.items, whereItDiffers: decision.whereItDiffers });
      return;
    case 'menu-removed':
      draft.menus.delete(decision.menu);
      return;
    case 'listing':
      draft.listings.set(decision.page, { perPage: decision.perPage });
      return;
    case 'listing-removed':
      draft.listings.delete(decision.page);
      return;
    case 'export-taken':
      for (const page of decision.again ?? []) draft.nodes.delete(page);
      for (const node of decision.kept ?? []) {
        draft.nodes.set(node.id, node);
        if (node.kind === 'page' && !draft.addresses.has(node.id)) draft.addresses.set(node.id, node.address);
      }
      for (const [page, address] of Object.entries(decision.former)) {
        draft.formerAddresses.set(page, new Set(draft.formerAddresses.get(page)).add(address));
        draft.exportAddresses.set(page, new Set(draft.exportAddresses.get(page)).add(address));
      }
      return;
    case 'crawled':
      for (const [page, addresses] of Object.entries(decision.from))
        draft.crawledFrom.set(page, new Set([...(draft.crawledFrom.get(page) ?? []), ...addresses]));
      draft.crawledFiles.clear();
      for (const [address, path] of Object.entries(decision.files)) draft.crawledFiles.set(address, path);
      return;
    case 'head':
      for (const setting of decision.settings) setHead(draft, setting);
      return;
    case 'icons':
      draft.icons = decision.icons;
      return;
    case 'redirect':
      settle(draft, decision.redirect, seq);
      return;
    case 'redirects':
      for (const from of decision.removed) unsettle(draft, from);
      for (const redirect of decision.redirects) settle(draft, redirect, seq);
      for (const { id, pattern } of decision.patterns ?? []) setPattern(draft, folding, id, pattern);
      return;
    case 'redirect-removed':
      unsettle(draft, decision.from);
      return;
    case 'pattern':
      setPattern(draft, folding, decision.id, decision.pattern);
      return;
    case 'pattern-removed':
      draft.patterns.delete(decision.id);
      folding.patternOrder.delete(decision.id);
      return;
    case 'patterns-ordered':
      orderPatterns(draft, folding, decision.ids);
      return;
    case 'base-path':
      draft.formerBasePaths.add(draft.basePath);
      draft.formerBasePaths.delete(decision.path);
      draft.basePath = decision.path;
      return;
    case 'removed':
      remove(draft, folding, decision, seq);
      return;
    case 'put-back':
      putBack(draft, folding, decision);
      for (const { node, place } of decision.places) draft.places.push([node, place]);
      readdress(draft, decision.addresses);
      for (const from of decision.unsettled) unsettle(draft, from);
      return;
    case 'removals-held':
      hold(draft, decision.of, { reason: decision.reason, seq });
      return;
    case 'removals-freed':
      hold(draft, decision.of, undefined);
      return;
    case 'swept':
      sweep(draft, folding, decision);
      for (const redirect of decision.redirects) if (!draft.redirects.has(redirect.from)) settle(draft, redirect, seq);
      return;
    case 'entry':
      if (decision.entry) draft.entries.set(decision.place, decision.entry);
      else draft.entries.delete(decision.place);
      return;
    case 'shown-instead':
      draft.shownInstead = decision.page;
      return;
    case 'last-day':
      draft.lastDay = decision.day;
      return;
    case 'undo':
      return;
  }
}

function settle(draft: MutableDraft, redirect: Redirect, seq: number): void {
  draft.redirects.set(redirect.from, redirect);
  draft.settledIn.set(redirect.from, seq);
}

function unsettle(draft: MutableDraft, from: string): void {
  draft.redirects.delete(from);
  draft.settledIn.delete(from);
}

/** Numbered between their decision and the next one, so that each keeps a number of its own. */
function copyTouches(draft: MutableDraft, from: PageId, to: PageId, seq: number): void {
  const own = [...draft.touches.values()].filter(({ scope }) => scope.kind === 'page' && scope.page === from);
  own.forEach((touch, index) =>
    draft.touches.set(seq + (index + 1) / (own.length + 1), { ...touch, scope: { kind: 'page', page: to } }),
  );
}

/** A title is what the page is called everywhere, not only in its head. */
function setHead(draft: MutableDraft, setting: HeadSetting): void {
  const { scope, name, text, own } = setting;
  if (name === 'title' && scope.kind === 'page') {
    if (typeof text === 'string') draft.titles.set(scope.page, text);
    else draft.titles.delete(scope.page);
    return;
  }
  const key = settingKey(setting);
  if (text === undefined && own === undefined) draft.head.delete(key);
  else draft.head.set(key, setting);
}

/** A copy begins with what was set for its page, but is no translation of what that one translates. */
function copyHead(draft: MutableDraft, from: PageId, to: PageId): void {
  for (const setting of [...draft.head.values()]) {
    if (setting.scope.kind === 'page' && setting.scope.page === from && setting.name !== 'translates')
      setHead(draft, { ...setting, scope: { kind: 'page', page: to } });
  }
}

function setMember(set: Set<string>, member: string, isIn: boolean): void {
  if (isIn) set.add(member);
  else set.delete(member);
}

/** Takes away those that a touch stands instead of. */
function forgetLike(draft: MutableDraft, touch: Touch): void {
  const identity = touchIdentity(touch);
  if (identity === undefined) return;
  for (const [seq, other] of draft.touches) if (touchIdentity(other) === identity) draft.touches.delete(seq);
}

function readdress(draft: MutableDraft, addresses: Addresses): void {
  for (const [page, address] of Object.entries(addresses)) {
    const before = draft.addresses.get(page);
    if (before !== undefined) draft.formerAddresses.set(page, new Set(draft.formerAddresses.get(page)).add(before));
    draft.addresses.set(page, address);
  }
}
