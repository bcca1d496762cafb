import { describe, expect, it } from 'vitest';
import { findWaysHome, type LiveLink } from './waysHome.ts';

const link = (words: string, leads: string | undefined, hasPicture = false): LiveLink => ({ words, leads, hasPicture });
const menu = { labels: ['Home', 'Visit', 'Garden'], home: [0] };
const at = (links: readonly LiveLink[]) => findWaysHome(links, [menu], '/').map(({ link: position }) => position);

describe('the ways home from a page', () => {
  it('are logos and the items of menus that mean home, wherever these lead', () => {
    expect(at([link('', '/', true), link('Home', '/old'), link('Visit', '/visit'), link('Garden', '/garden')])).toEqual(
      [0, 1],
    );
  });

  it('are not other pictures, nor links with the same words elsewhere', () => {
    expect(at([link('', '/garden', true), link('Home', '/home-of-bees'), link('Bees', '/bees')])).toEqual([]);
    // A trail begins with the same word and goes on otherwise.
    expect(at([link('Home', '/museum'), link('Rooms', '/museum/rooms')])).toEqual([]);
  });

  it('are no items that lead nowhere, as the page one is on is often written', () => {
    expect(at([link('Home', undefined), link('Visit', '/visit')])).toEqual([]);
  });

  it('are found at the end of a menu too, and in each menu', () => {
    const footer = { labels: ['Imprint', 'Front'], home: [1] };
    const links = [link('Home', '/'), link('Visit', '/visit'), link('Imprint', '/imprint'), link('Front', '/')];
    expect(findWaysHome(links, [menu, footer], '/')).toEqual([
      { words: 'Home', link: 0 },
      { words: 'Front', link: 3 },
    ]);
  });
});
