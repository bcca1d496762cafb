/** Menus, links and redirects that mean the newest entry of a list, through a newer export with a newer entry. */
import type { MenuRow, Pointed } from '@fastigium/contracts/api/pages';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { letBe, openHouse, zip, type House } from './harness.ts';

let house: House;
let site: string;

const MENU = '<nav><ul><li><a href="/">Front</a></li><li><a href="/news/">News</a></li></ul></nav>';
const page = (title: string, body: string) =>
  `<!DOCTYPE html><html lang="en"><head><title>${title}</title></head><body>${MENU}<main><h1>${title}</h1>${body}</main></body></html>`;
const entry = (title: string, day: string) => page(title, `<p><time datetime="${day}">${day}</time></p>`);
const FILES = {
  'index.html': page('Front', '<p><a href="/news/">What is new</a></p>'),
  'news/index.html': page('News', ''),
  'news/first/index.html': entry('First', '2026-01-10'),
  'news/second/index.html': entry('Second', '2026-02-10'),
};

beforeAll(async () => {
  house = await openHouse();
  site = await house.owner.newSite('Moor');
  await house.owner.bringIn(site, await zip(FILES));
});
afterAll(() => house.stop());

const at = async (address: string) => (await house.owner.page(site, address)).id;
const live = async (path: string) => (await house.visit('moor.localhost', path)).body;
const publish = async () => {
  await letBe(house, site);
  expect((await house.owner.publish(site)).state).toBe('done');
};

describe('the newest entry of a list', () => {
  it('is no target while the page lists nothing', async () => {
    const refused = await house.owner.decide(site, {
      kind: 'redirect',
      from: '/last',
      to: { status: 302, target: { kind: 'page', page: await at('/news/'), newest: true } },
    });
    expect(refused).toMatchObject({ status: 422, body: { error: { code: 'no-listing' } } });
  });

  it('is where a menu item, a link and a redirect lead', async () => {
    const news = await at('/news/');
    const target = { kind: 'page', page: news, newest: true } as const;
    await house.owner.decide(site, { kind: 'listing', page: news, perPage: 10 });
    await house.owner.decide(site, { kind: 'redirect', from: '/last', to: { status: 302, target } });
    const [menu] = (await house.owner.get<{ menus: MenuRow[] }>(`/api/sites/${site}/menus`)).body.menus;
    expect(menu).toBeDefined();
    const added = { label: 'Latest', newWindow: false, children: [], target };
    expect(
      await house.owner.decide(site, {
        kind: 'menu',
        menu: menu?.id,
        items: [...(menu?.items ?? []), added],
        whereItDiffers: false,
      }),
    ).toMatchObject({ status: 201 });
    const front = await at('/');
    const { body: pointed } = await house.owner.post<Pointed>(`/api/sites/${site}/pages/${front}/pointed`, {
      start: FILES['index.html'].indexOf('<a href="/news/">What is new'),
      child: null,
    });
    const touched = await house.owner.decide(site, {
      kind: 'touch',
      touch: { kind: 'link', scope: { kind: 'page', page: front }, place: pointed.link?.anchor, target },
    });
    expect(touched).toMatchObject({ status: 201 });
    await publish();
    expect(await live('/')).toContain('<a href="/news/second/">What is new</a>');
    expect(await live('/')).toContain('<li><a href="/news/second/">Latest</a></li>');
    expect((await house.visit('moor.localhost', '/last')).headers['location']).toBe('/news/second/');
    // As decided, in the list of redirects.
    const { rows } = (
      await house.owner.get<{ rows: { from: string; to: string; target: unknown }[] }>(`/api/sites/${site}/redirects`)
    ).body;
    expect(rows.find(({ from }) => from === '/last')).toMatchObject({ to: '/news/second/', target });
  });

  it('is another one by itself when a newer entry comes, and when that one moves', async () => {
    await house.owner.bringIn(site, await zip({ ...FILES, 'news/third/index.html': entry('Third', '2026-03-10') }));
    await publish();
    expect(await live('/')).toContain('<a href="/news/third/">What is new</a>');
    expect(await live('/news/first/')).toContain('<li><a href="/news/third/">Latest</a></li>');
    expect((await house.visit('moor.localhost', '/last')).headers['location']).toBe('/news/third/');
    await house.owner.decide(site, { kind: 'rename', page: await at('/news/third/'), address: '/news/spring/' });
    await publish();
    expect(await live('/')).toContain('<a href="/news/spring/">What is new</a>');
    expect((await house.visit('moor.localhost', '/last')).headers['location']).toBe('/news/spring/');
    await house.owner.decide(site, {
      kind: 'remove',
      thing: { kind: 'node', node: await at('/news/spring/'), alone: false },
      standIn: { kind: 'gone' },
      links: 'kept',
      why: '',
      newHome: null,
    });
    await publish();
    expect(await live('/')).toContain('<a href="/news/second/">What is new</a>');
    expect((await house.visit('moor.localhost', '/last')).headers['location']).toBe('/news/second/');
  });
});
