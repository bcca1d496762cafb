/** Which page is home, and where the one that was goes. */
import type { HomeChoice } from './nodes.ts';
import type { MutableDraft } from './draft.ts';

/** Where the page that is home stands when it is not. */
export interface HomeReturns {
  to: string | undefined;
}

export function setHome(draft: MutableDraft, decision: HomeChoice, homeReturns: HomeReturns): void {
  // Each home decision stands alone, so that undoing an earlier one cannot leave two pages at "/".
  if (draft.home !== undefined) {
    if (homeReturns.to === undefined) draft.addresses.delete(draft.home);
    else draft.addresses.set(draft.home, homeReturns.to);
  }
  draft.home = decision.page;
  if (decision.importedHome?.page === decision.page) {
    homeReturns.to = undefined;
    draft.addresses.delete(decision.page);
    return;
  }
  homeReturns.to = draft.addresses.get(decision.page);
  // What it was renamed to before goes on leading to it.
  if (homeReturns.to !== undefined)
    draft.formerAddresses.set(decision.page, new Set(draft.formerAddresses.get(decision.page)).add(homeReturns.to));
  draft.addresses.set(decision.page, '/');
  if (decision.importedHome) draft.addresses.set(decision.importedHome.page, decision.importedHome.address);
}

/** Everything a change of home can touch, so that it can be taken back whole. */
interface HomeState {
  readonly home: string | undefined;
  readonly returns: string | undefined;
  readonly addresses: readonly (readonly [string, string | undefined])[];
  readonly former: readonly (readonly [string, ReadonlySet<string> | undefined])[];
}

export interface HomeChange {
  readonly before: HomeState;
  readonly after: HomeState;
}

function readHomeState(draft: MutableDraft, pages: readonly string[], returns: HomeReturns): HomeState {
  return {
    home: draft.home,
    returns: returns.to,
    addresses: pages.map((page) => [page, draft.addresses.get(page)] as const),
    former: pages.map((page) => [page, draft.formerAddresses.get(page)] as const),
  };
}

/** The same, remembered. */
export function changeHome(draft: MutableDraft, choice: HomeChoice, returns: HomeReturns): HomeChange {
  const pages = [...new Set([draft.home, choice.page, choice.importedHome?.page].filter((page) => page !== undefined))];
  const before = readHomeState(draft, pages, returns);
  setHome(draft, choice, returns);
  return { before, after: readHomeState(draft, pages, returns) };
}

/** @returns false where anything of it is not as the change left it; then nothing is done */
export function takeBackHome(draft: MutableDraft, { before, after }: HomeChange, returns: HomeReturns): boolean {
  const isAsLeft =
    draft.home === after.home &&
    returns.to === after.returns &&
    after.addresses.every(([page, address]) => draft.addresses.get(page) === address) &&
    after.former.every(([page, set]) => draft.formerAddresses.get(page) === set);
  if (!isAsLeft) return false;
  draft.home = before.home;
  returns.to = before.returns;
  for (const [page, address] of before.addresses) {
    if (address === undefined) draft.addresses.delete(page);
    else draft.addresses.set(page, address);
  }
  for (const [page, set] of before.former) {
    if (set === undefined) draft.formerAddresses.delete(page);
    else draft.formerAddresses.set(page, new Set(set));
  }
  return true;
}
