/** What people call the menus of a site: by where they stand; several in one place by their first item. */
import type { SiteMenu } from '@fastigium/core/menus';

export function menuName(
  menu: Pick<SiteMenu, 'id' | 'way' | 'items'>,
  all: readonly Pick<SiteMenu, 'id' | 'way' | 'items'>[],
): string {
  const kind = kindOf(menu.way);
  const alike = all.filter(({ way }) => kindOf(way) === kind);
  if (alike.length === 1) return kind;
  const first = menu.items[0]?.label;
  const name = first ? `${kind} (${first} …)` : kind;
  // Those that begin alike too are told by their order.
  const same = alike.filter(({ items }) => items[0]?.label === first);
  const nth = same.findIndex(({ id }) => id === menu.id);
  return nth <= 0 ? name : `${name}, ${nth + 1}`;
}

function kindOf(way: string): string {
  const steps = way.split(' > ');
  const stands = (tag: string, named: RegExp) =>
    steps.some((step) => {
      const [, element = '', name = ''] = /^([^.#]*)(?:[.#](.*))?$/.exec(step) ?? [];
      return element === tag || named.test(name);
    });
  // What boxes are called in pages without landmarks (common practice).
  if (stands('footer', /(^|[-_])(foot|bottom)/i)) return 'Foot menu';
  if (stands('aside', /(^|[-_])side/i)) return 'Side menu';
  if (stands('header', /(^|[-_])(head|top|mast)/i) || stands('nav', /(^|[-_])nav/i)) return 'Main menu';
  return 'Menu';
}
