/** What people call menus; the ways are of the shapes that real sites have, the labels are invented. */
import { speak } from '../../words.ts';
import type { SiteMenu } from '@fastigium/core/menus';
import { describe, expect, it } from 'vitest';
import { nameMenu } from './menuNames.ts';

const menu = (id: string, way: string, first = 'Home') =>
  ({ id, way, items: [{ label: first }] }) as unknown as SiteMenu;
const names = (...menus: readonly SiteMenu[]) => menus.map((each) => speak(nameMenu(each, menus)));

describe('the name of a menu', () => {
  it.each([
    ['header > ul', 'Main menu'],
    ['body > nav.x > ul', 'Main menu'],
    ['div#page-header > p.menu', 'Main menu'],
    ['div.navbar-collapse > ul', 'Main menu'],
    ['footer > p', 'Foot menu'],
    ['div#footer > p.menu', 'Foot menu'],
    ['aside > dl', 'Side menu'],
    ['div.sidebar > ul', 'Side menu'],
    // Names that only hold the letters say nothing.
    ['div.desktop > ul', 'Menu'],
    ['div.inside > table', 'Menu'],
  ])('of one at %s is %s', (way, name) => expect(names(menu('a', way))).toEqual([name]));

  it('says how it begins where several are of one kind, and which one it is where they begin alike', () => {
    expect(names(menu('a', 'header > ul'), menu('b', 'nav > ul', 'Rooms'))).toEqual([
      'Main menu (Home …)',
      'Main menu (Rooms …)',
    ]);
    expect(names(menu('a', 'div.x > p'), menu('b', 'div.y > p'))).toEqual(['Menu (Home …)', 'Menu (Home …), 2']);
    expect(names(menu('a', 'header > ul'), menu('b', 'footer > ul'))).toEqual(['Main menu', 'Foot menu']);
  });
});
