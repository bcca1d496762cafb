/** What people call the menus of a site: by where they stand; several in one place by their first item. */
import type { SiteMenu } from '@fastigium/core/menus';

export function menuName(
  menu: Pick<SiteMenu, 'id' | 'way' | 'items'>,
  all: readonly Pick<SiteMenu, 'id' | 'way'>[],
): string {
  const kind = kindOf(menu.way);
  const alike = all.filter(({ way }) => kindOf(way) === kind);
  if (alike.length === 1) return kind;
  const first = menu.items[0]?.label;
  return first ? `${kind} (${first} …)` : kind;
}

function kindOf(way: string): string {
  const steps = way.split(' > ');
  const stands = (tag: string) =>
    steps.some((step) => step === tag || step.startsWith(`${tag}.`) || step.startsWith(`${tag}#`));
  if (stands('footer')) return 'Foot menu';
  if (stands('aside')) return 'Side menu';
  if (stands('header') || stands('nav')) return 'Main menu';
  return 'Menu';
}
