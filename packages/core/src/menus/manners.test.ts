/** Menus of sites in every manner of markup, found and written; and none where real documentation has none. */
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { MANNERS, type Manner } from '../../../../corpus/manners.ts';
import { findAddressOfFile, isPageFile } from '../address/index.ts';
import { parsePage } from '../html/index.ts';
import { gatherMenus, gatherLists, findMenus, type SiteMenus } from './index.ts';

const bytes = (text: string) => new TextEncoder().encode(text);

function menusOf(files: Readonly<Record<string, string | Uint8Array>>): SiteMenus {
  const pages = Object.entries(files)
    .filter(([path]) => isPageFile(path))
    .map(([page, content]) => ({
      page,
      menus: findMenus(parsePage(typeof content === 'string' ? bytes(content) : content), findAddressOfFile(page)),
    }));
  return gatherMenus(gatherLists(pages), pages.length);
}

describe('menus of every manner', () => {
  it.each(MANNERS.map((manner): [string, Manner] => [manner.name, manner]))('%s', (_, manner) => {
    const { menus, apart } = menusOf(manner.files);
    expect(menus.map(({ items }) => items.map(({ label }) => label))).toEqual(manner.menus);
    for (const { pages, differing } of menus)
      expect(pages.length + differing.length).toBe(
        manner.menuPages ?? Object.keys(manner.files).filter(isPageFile).length,
      );
    expect(apart.map(({ kind }) => kind)).toEqual(manner.apart);
  });
});

const SITES: readonly [string, string, number][] = [
  ['developers-reference', '/usr/share/developers-reference', 0],
  ['debian-policy', '/usr/share/doc/debian-policy', 0],
];

describe('menus of real sites, judged by hand', () => {
  it.each(SITES)('%s', (_, folder, wanted) => {
    expect(existsSync(folder)).toBe(true);
    const files = Object.fromEntries(
      readdirSync(folder, { recursive: true, withFileTypes: true })
        .filter((each) => each.isFile() && isPageFile(each.name))
        .map((each) => {
          const file = join(each.parentPath, each.name);
          return [file.slice(folder.length + 1), readFileSync(file)];
        }),
    );
    const { menus, apart } = menusOf(files);
    expect(menus.map(({ items }) => items.map(({ label }) => label))).toHaveLength(wanted);
    // Their ways on are told from menus.
    expect(apart.map(({ kind }) => kind)).toContain('steps');
  });
});
