/**
 * Every manner of menu written anew and read again: what was asked for stands there, and nothing else moved. The manners
 * are those of corpus/manners.ts.
 */
import { describe, expect, it } from 'vitest';
import { MANNERS } from '../../../../corpus/manners.ts';
import { findAddressOfFile, formatAddress, isPageFile, relativiseReference, resolveHref } from '../address/index.ts';
import { readBaseHref, parsePage, splice } from '../html/index.ts';
import {
  walkItems,
  gatherMenus,
  isVariant,
  keyItem,
  gatherLists,
  editMenu,
  findMenus,
  plainTarget,
  settleWords,
  type FoundItem,
  type SiteMenu,
  type WrittenItem,
} from './index.ts';

const bytes = (content: string | Uint8Array) =>
  typeof content === 'string' ? new TextEncoder().encode(content) : content;

/** The menus of a manner, each with the first page that has it. */
const PLACES = MANNERS.flatMap((manner) => {
  const pages = Object.entries(manner.files).filter(([path]) => isPageFile(path));
  const { menus } = gatherMenus(
    gatherLists(
      pages.map(([page, content]) => ({ page, menus: findMenus(parsePage(bytes(content)), findAddressOfFile(page)) })),
    ),
    pages.length,
  );
  return menus.flatMap((menu) => {
    const page = menu.pages[0] ?? '';
    const content = manner.files[page];
    return content === undefined ? [] : [{ name: `${manner.name}: ${menu.id}`, menu, page, source: bytes(content) }];
  });
});

function write(menu: SiteMenu, page: string, source: Uint8Array, change: (items: WrittenItem[]) => WrittenItem[]) {
  const address = findAddressOfFile(page);
  const document = parsePage(source);
  const base = readBaseHref(document);
  const place = findMenus(document, address).find(
    (each) => menu.ways.includes(each.way) && isVariant(settleWords(each.items, menu.items), menu.items),
  );
  if (!place) throw new Error(`${page} has no ${menu.id}`);
  const nodes = settleWords(place.items, menu.items);
  const asIs = ({ to, label, newWindow, isCurrent, children }: FoundItem): WrittenItem => ({
    was: keyItem({ to, label }),
    to,
    label,
    newWindow,
    isCurrent,
    children: children.map(asIs),
  });
  const wanted = change(nodes.map(asIs));
  const edits = editMenu(document, nodes, wanted, {
    mark: undefined,
    opensBranch: menu.opensBranch,
    leadsTo: (href, to) => {
      const meant = resolveHref(href, address, base);
      if (meant.kind !== 'inside') return (meant.kind === 'outside' ? meant.url : href.trim()) === to;
      return (
        plainTarget(formatAddress(meant.address) + (meant.fragment === undefined ? '' : `#${meant.fragment}`)) === to
      );
    },
    hrefTo: (to, like) =>
      base === undefined && like !== undefined && !/^\/|:/.test(like) && to.startsWith('/')
        ? relativiseReference(address, to)
        : to,
  });
  const after = splice(source, document.source, edits);
  const again = parsePage(after);
  return { wanted, edits, after, lists: findMenus(again, address, new Set(menu.ways)) };
}

const labels = (items: readonly { readonly label: string }[]) => items.map(({ label }) => label);

describe.each(PLACES)('$name', ({ menu, page, source }) => {
  it('is left as it is where nothing was changed', () => {
    const { edits, after } = write(menu, page, source, (items) => items);
    expect(edits).toEqual([]);
    expect(after).toBe(source);
  });

  it('turned round reads so, each item with what it leads to', () => {
    const { wanted, lists } = write(menu, page, source, (items) => items.toReversed());
    const found = lists.map(({ items }) => items.map(({ label, to }) => `${label} ${to}`));
    expect(found.map((each) => each.map((item) => item.replace(/ \S*$/, '')))).toContainEqual(labels(wanted));
  });

  it('with another label for each item reads so', () => {
    const { wanted, lists } = write(menu, page, source, (items) =>
      items.map((item, n) => ({ ...item, label: `Way ${n}` })),
    );
    expect(lists.map(({ items }) => labels(items))).toContainEqual(labels(wanted));
  });

  it('with one more item reads so, and it leads where it should', () => {
    const fresh: WrittenItem = {
      was: undefined,
      to: '/fresh/',
      label: 'Fresh one',
      newWindow: false,
      isCurrent: false,
      children: [],
    };
    const { wanted, lists } = write(menu, page, source, ([first, ...rest]) => [
      ...(first ? [first] : []),
      fresh,
      ...rest,
    ]);
    expect(lists.map(({ items }) => labels(items))).toContainEqual(labels(wanted));
    expect(lists.flatMap(({ items }) => [...walkItems(items)]).find(({ label }) => label === 'Fresh one')?.to).toBe(
      '/fresh/',
    );
  });
});
