/** What people call the menus of a site: by where they stand; several in one place by their first item. */
import { menu as named, type MenuMessage } from '@fastigium/contracts/messages/names';
import type { SiteMenu } from '@fastigium/core/menus';

export function nameMenu(
  menu: Pick<SiteMenu, 'id' | 'way' | 'items'>,
  all: readonly Pick<SiteMenu, 'id' | 'way' | 'items'>[],
): MenuMessage {
  const kind = judgeWay(menu.way);
  const alike = all.filter(({ way }) => judgeWay(way) === kind);
  if (alike.length === 1) return named(kind);
  const first = menu.items[0]?.label;
  const name = first ? named('beginning-with', { menu: named(kind), first }) : named(kind);
  // Those that begin alike too are told by their order.
  const same = alike.filter(({ items }) => items[0]?.label === first);
  const nth = same.findIndex(({ id }) => id === menu.id);
  return nth <= 0 ? name : named('nth', { menu: name, nth: nth + 1 });
}

function judgeWay(way: string): 'main' | 'foot' | 'side' | 'other' {
  const steps = way.split(' > ');
  const stands = (tag: string, named: RegExp) =>
    steps.some((step) => {
      const [, element = '', name = ''] = /^([^.#]*)(?:[.#](.*))?$/.exec(step) ?? [];
      return element === tag || named.test(name);
    });
  // What boxes are called in pages without landmarks (common practice).
  if (stands('footer', /(^|[-_])(foot|bottom)/i)) return 'foot';
  if (stands('aside', /(^|[-_])side/i)) return 'side';
  if (stands('header', /(^|[-_])(head|top|mast)/i) || stands('nav', /(^|[-_])nav/i)) return 'main';
  return 'other';
}
