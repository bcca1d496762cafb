/** What leads to "the newest of a list" leads to whichever entry that is. */
import type { MenuItem } from '../menus/index.ts';
import type { Draft } from './draft.ts';
import type { PageId } from './pageId.ts';

interface PageTarget {
  readonly kind: 'page';
  readonly page: PageId;
  readonly newest?: true | undefined;
}
type AnyTarget = PageTarget | { readonly kind: string; readonly newest?: undefined };

const isNewest = (target: AnyTarget | undefined): target is PageTarget =>
  target?.kind === 'page' && target.newest === true;

/** Whether anything in a draft leads to the newest of a list. */
export function leadsToNewest(draft: Draft): boolean {
  return (
    [...draft.touches.values()].some((touch) => touch.kind === 'link' && isNewest(touch.target)) ||
    [...draft.redirects.values()].some((redirect) => redirect.status !== 410 && isNewest(redirect.target)) ||
    [...draft.menus.values()].some(({ items }) => hasNewest(items))
  );
}

const hasNewest = (items: readonly MenuItem[]): boolean =>
  items.some(({ target, children }) => isNewest(target) || hasNewest(children));

/**
 * The same draft with the newest entries themselves as targets; a list without entries stands for itself.
 *
 * @param newestOf the newest entry of the list that a page is
 */
export function withNewest(draft: Draft, newestOf: (listing: PageId) => PageId | undefined): Draft {
  if (!leadsToNewest(draft)) return draft;
  const entry = <T extends AnyTarget>(target: T): T => {
    if (!isNewest(target)) return target;
    const { newest: _, ...plain } = target;
    return { ...plain, page: newestOf(target.page) ?? target.page } as unknown as T;
  };
  const inItems = (items: readonly MenuItem[]): MenuItem[] =>
    items.map((item) => ({ ...item, target: entry(item.target), children: inItems(item.children) }));
  return {
    ...draft,
    touches: changeValues(draft.touches, (touch) =>
      touch.kind === 'link' && isNewest(touch.target) ? { ...touch, target: entry(touch.target) } : touch,
    ),
    redirects: changeValues(draft.redirects, (redirect) =>
      redirect.status !== 410 && isNewest(redirect.target) ? { ...redirect, target: entry(redirect.target) } : redirect,
    ),
    menus: changeValues(draft.menus, (menu) =>
      hasNewest(menu.items) ? { ...menu, items: inItems(menu.items) } : menu,
    ),
  };
}

function changeValues<K, V>(map: ReadonlyMap<K, V>, change: (value: V) => V): ReadonlyMap<K, V> {
  return new Map([...map].map(([key, value]) => [key, change(value)]));
}
