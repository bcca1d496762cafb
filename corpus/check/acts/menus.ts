/** Acts on a menu, each written on every page that has it. */
import type { PageRow } from '../../../packages/contracts/src/api/draft.ts';
import type { MenuRow } from '../../../packages/contracts/src/api/pages.ts';
import { linksOf, runOf } from '../anchors.ts';
import { difference } from '../site.ts';
import { addressOf, isPage, letters } from '../source.ts';
import { decide, type Act, type ActContext, type Outcome } from './act.ts';
import { commonEnd, commonStart } from './pieces.ts';

type Items = MenuRow['items'];

async function menuAct(
  site: ActContext,
  change: (
    items: Items,
    page: PageRow,
  ) => { items: Items; labels: readonly string[]; renamed?: { from: string; to: string } } | undefined,
): Promise<Outcome> {
  const { body } = await site.client.get<{ menus: MenuRow[] }>(`/api/sites/${site.id}/menus`);
  const menu =
    body.menus.find(({ items }) => items.filter(({ target }) => target.kind !== 'none').length >= 3) ??
    body.menus.find(({ items }) => items.length >= 3);
  if (!menu) return 'no menu';
  const rows = await site.client.pages(site.id);
  const outside =
    rows.find(
      ({ kind, menus, address, sourcePath }) =>
        kind === 'page' && menus.length === 0 && address !== '/' && sourcePath !== '404.html',
    ) ?? rows[0];
  if (!outside) return 'no page';
  const changed = change(menu.items, outside);
  if (!changed) return 'too few items';
  await decide(site, { kind: 'menu', menu: menu.id, items: changed.items, whereItDiffers: false });
  await site.publish();
  const labels = menu.items.flatMap(function flat(item): string[] {
    return [item.label, ...item.children.flatMap(flat)];
  });
  const wrong: string[] = [];
  let reached = 0;
  for (const path of Object.keys(site.files)) {
    const address = addressOf(path);
    const answer = await site.visit(address);
    const before = letters(site.files[path] as Uint8Array);
    const after = letters(answer.bytes);
    if (before === after) continue;
    const [was, now] = [linksOf(before, address), linksOf(after, address)];
    const run = isPage(path) ? runOf(was, labels) : undefined;
    if (!run) {
      wrong.push(`${path}: has no such menu and was changed: ${difference(before, after)}`);
      continue;
    }
    reached += 1;
    const tail = was.length - run.to;
    const inMenu = now.slice(run.from, now.length - tail);
    const said = inMenu.map(({ words }) => words);
    // The item of the page itself may be words alone, as it was or as it is on other pages.
    const isOwn = (label: string) =>
      !run.labels.includes(label) &&
      (labels.includes(label) || labels.length === run.labels.length + 1 || address === outside.address);
    const belowOf = (label: string) =>
      run.below.get(label === changed.renamed?.to ? changed.renamed.from : label) ?? [];
    const expected = changed.labels
      .filter((label) => said.includes(label) || !isOwn(label))
      .flatMap((label) => [label, ...belowOf(label)]);
    if (said.join(' | ') !== expected.join(' | '))
      wrong.push(`${path}: the menu says ${said.join(' | ')} instead of ${expected.join(' | ')}`);
    for (const [index, link] of [...was.slice(0, run.from), ...was.slice(run.to)].entries()) {
      const other = index < run.from ? now[index] : now[now.length - (was.length - run.to) + (index - run.from)];
      if (other?.to !== link.to || other.words !== link.words)
        wrong.push(`${path}: “${link.words}” outside of the menu led to ${link.to} and leads to ${other?.to}`);
    }
    for (const link of inMenu) {
      const own = was.slice(run.from, run.to).find(({ words }) => words === link.words);
      if (own && own.to !== link.to) wrong.push(`${path}: “${link.words}” led to ${own.to} and leads to ${link.to}`);
    }
    // Outside of the menu's own markup not one byte may differ.
    const [first, last] = [was[run.from]?.start ?? 0, was[run.to - 1]?.end ?? before.length];
    if (commonStart(before, after) < first - AROUND || commonEnd(before, after) < before.length - last - AROUND)
      wrong.push(`${path}: bytes outside of the menu differ: ${difference(before, after)}`);
  }
  if (reached < menu.pages) wrong.push(`the menu was written on ${reached} of ${menu.pages} pages`);
  return wrong;
}

/** An item's own markup may reach this far beyond its link. */
const AROUND = 400;

/** A head over a drop-down is no link everywhere, so only pages say whether its words are among the links. */
const allLabels = (items: Items): string[] =>
  items.flatMap((item): string[] => [item.label, ...allLabels(item.children as Items)]);

export const menuMoved: Act = {
  name: 'menu item moved',
  run: (site) =>
    menuAct(site, (items) => {
      const next = [...items.slice(1), ...items.slice(0, 1)];
      return { items: next, labels: allLabels(next) };
    }),
};

export const menuAdded: Act = {
  name: 'menu item added',
  run: (site) =>
    menuAct(site, (items, page) => {
      const next = [
        ...items,
        { target: { kind: 'page', page: page.id }, label: 'Quite new here', newWindow: false, children: [] },
      ] as Items;
      return { items: next, labels: allLabels(next) };
    }),
};

export const menuRenamed: Act = {
  name: 'menu item renamed',
  run: (site) =>
    menuAct(site, (items) => {
      const at = items.findIndex(({ children, target }) => children.length === 0 && target.kind !== 'none');
      const chosen = at < 0 ? 0 : at;
      const to = 'Called otherwise';
      const next = items.map((item, index) => (index === chosen ? { ...item, label: to } : item));
      return { items: next, labels: allLabels(next), renamed: { from: items[chosen]?.label ?? '', to } };
    }),
};
