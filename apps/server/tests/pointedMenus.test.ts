/** Pointing at a list of links makes it a menu on all pages that have it; it is edited, kept by newer exports, let go. */
import type { MenuRow, Pointed } from '@fastigium/contracts/api/pages';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { letBe, openHouse, zip, type House } from './harness.ts';

let house: House;
let site: string;

// In the content, and on two pages: too few to be evidence by itself.
const LINKS =
  '<div class=links><a href="north.html">North</a> | <a href="south.html">South</a> | <a href="west.html">West</a></div>';
const page = (title: string, links = LINKS) =>
  `<!DOCTYPE html><html lang="en"><head><title>${title}</title></head><body><main><h1>${title}</h1>${links}<p>About ${title}.</p></main></body></html>`;
const FILES = {
  'index.html': page('Front', ''),
  'north.html': page('North'),
  'south.html': page('South'),
  'west.html': page('West', ''),
};

beforeAll(async () => {
  house = await openHouse();
  site = await house.owner.newSite('Moor');
  await house.owner.bringIn(site, await zip(FILES));
});
afterAll(() => house.stop());

const at = async (address: string) => (await house.owner.page(site, address)).id;
const menus = async () => (await house.owner.get<{ menus: MenuRow[] }>(`/api/sites/${site}/menus`)).body.menus;
const place = FILES['north.html'].indexOf('<a href="south.html"');
const pointed = async () =>
  (
    await house.owner.post<Pointed>(`/api/sites/${site}/pages/${await at('/north.html')}/pointed`, {
      start: place,
      child: 0,
    })
  ).body;
const pointAt = async (address: string, start: number) =>
  house.owner.post<{ id: string; name: string; pages: number }>(`/api/sites/${site}/menus/pointed`, {
    page: await at(address),
    start,
  });
const live = async (path: string) => (await house.visit('moor.localhost', path)).body;

describe('a list of links that is no menu by itself', () => {
  it('is told around a link, and becomes one on all pages that have it', async () => {
    expect(await menus()).toEqual([]);
    expect((await pointed()).list).toEqual({ labels: ['North', 'South', 'West'], menu: null });
    const made = await pointAt('/north.html', place);
    expect(made).toMatchObject({ status: 201, body: { pages: 2 } });
    expect(await menus()).toMatchObject([{ id: made.body.id, isPointed: true, isEdited: false, pages: 2 }]);
    expect((await pointed()).list?.menu).toEqual({ id: made.body.id, name: made.body.name });
    // Pointing again, from another page, is the same one.
    expect((await pointAt('/south.html', place)).body.id).toBe(made.body.id);
    expect(await menus()).toHaveLength(1);
  });

  it('is written in its own markup on each of them, and nothing else is', async () => {
    const [menu] = await menus();
    const [north, south, west] = menu?.items ?? [];
    const decided = await house.owner.decide(site, {
      kind: 'menu',
      menu: menu?.id,
      items: [west, north, { ...south, label: 'The south' }],
      whereItDiffers: false,
    });
    expect(decided).toMatchObject({ status: 201 });
    await letBe(house, site);
    expect((await house.owner.publish(site)).state).toBe('done');
    const now =
      '<div class=links><a href="west.html">West</a> | <a href="north.html">North</a> | <a href="south.html">The south</a></div>';
    expect(await live('/north.html')).toBe(page('North', now));
    expect(await live('/south.html')).toBe(page('South', now));
    expect(await live('/west.html')).toBe(FILES['west.html']);
  });

  it('is there in a newer export, with what was decided about it', async () => {
    await house.owner.bringIn(site, await zip({ ...FILES, 'west.html': page('West'), 'east.html': page('East', '') }));
    expect(await menus()).toMatchObject([{ isPointed: true, isEdited: true, pages: 3 }]);
    await letBe(house, site);
    expect((await house.owner.publish(site)).state).toBe('done');
    expect(await live('/west.html')).toContain('>The south</a>');
  });

  it('is let go once it is as it was imported, and not before', async () => {
    const [menu] = await menus();
    const letGo = () => house.owner.post(`/api/sites/${site}/menus/let-go`, { menu: menu?.id });
    expect(await letGo()).toMatchObject({ status: 409, body: { error: { code: 'menu-changed' } } });
    await house.owner.decide(site, { kind: 'menu-removed', menu: menu?.id });
    expect(await letGo()).toMatchObject({ status: 200 });
    expect(await menus()).toEqual([]);
    expect(await letGo()).toMatchObject({ status: 404 });
  });

  it('is not there around a link in a text', async () => {
    const body = '<!DOCTYPE html><title>T</title><p>Far <a href="north.html">north</a> of here, as they say.</p>';
    const other = await house.owner.newSite('Text');
    await house.owner.bringIn(other, await zip({ 'index.html': body, 'north.html': FILES['north.html'] }));
    const { id } = await house.owner.page(other, '/');
    const asked = await house.owner.post(`/api/sites/${other}/menus/pointed`, { page: id, start: body.indexOf('<a ') });
    expect(asked).toMatchObject({ status: 422, body: { error: { code: 'no-menu-here' } } });
  });
});
