/** What a person changed is what every screen and every reckoning says; the import is read by the compiler alone. */
import type { HomePreview, MenuRow, PageInside, Pointed } from '@fastigium/contracts/api/pages';
import type { Metadata } from '@fastigium/contracts/api/metadata';
import { findAnchorAt, listAnchors, parsePage, type Anchor } from '@fastigium/core/html';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { MANNERS } from '../../../corpus/manners.ts';
import { checkDraft } from '../src/features/snags/checkDraft.ts';
import { openHouse, zip, type House } from './harness.ts';

let house: House;
let site: string;
const files = MANNERS.find(({ name }) => name.startsWith('between bars'))?.files ?? {};

beforeAll(async () => {
  house = await openHouse();
  site = await house.owner.newSite('Saltmarsh Mill');
  await house.owner.bringIn(site, await zip(files));
});
afterAll(() => house.stop());

const decide = async (decision: object) => {
  const { status, body } = await house.owner.decide(site, decision);
  if (status !== 201) throw new Error(JSON.stringify(body));
  return body;
};
const back = () => decide({ kind: 'step', direction: 'back' });
const idOf = async (path: string) =>
  (await house.owner.pages(site)).find(({ sourcePath }) => sourcePath === path)?.id ?? '';
const point = async (page: string, start: number, child: number | null) =>
  (await house.owner.post<Pointed>(`/api/sites/${site}/pages/${page}/pointed`, { start, child })).body;

/** Where a text or a link stands in a source, as the pointing frame would say it. */
function placeOf(
  source: string,
  what: (place: { tag: string; words: string }) => boolean,
): { start: number; child: number | null; anchor: Anchor } {
  const document = parsePage(Buffer.from(source));
  for (const { element, text, anchor } of listAnchors(document)) {
    if (!what({ tag: element.tagName, words: text ? text.value.trim() : '' })) continue;
    return {
      start: element.sourceCodeLocation?.startOffset ?? 0,
      child: text?.child ?? null,
      anchor: { ...(findAnchorAt(document, element.sourceCodeLocation?.startOffset ?? 0, text?.child) ?? anchor) },
    };
  }
  throw new Error('nothing stands there');
}

describe('a text that was corrected', () => {
  it('is what is pointed at, whatever it was corrected to (property)', async () => {
    const about = await idOf('about.html');
    const at = placeOf(files['about.html'] ?? '', ({ words }) => words.startsWith('The mill was built'));
    const words = fc
      .string({ minLength: 1, maxLength: 40, unit: 'grapheme' })
      .map((each) =>
        each
          .toWellFormed()
          .replace(/[\0-\x20\x7f-\x9f\s]+/g, ' ')
          .trim(),
      )
      .filter((each) => each !== '');
    await fc.assert(
      fc.asyncProperty(words, async (to) => {
        await decide({
          kind: 'touch',
          touch: { kind: 'text', scope: { kind: 'page', page: about }, place: at.anchor, to },
        });
        expect((await point(about, at.start, at.child)).text).toBe(to);
      }),
      { numRuns: 12 },
    );
  });

  it('is what is suggested as a description, and what the page’s own words are compared by', async () => {
    const about = await idOf('about.html');
    const at = placeOf(files['about.html'] ?? '', ({ words }) => words.startsWith('The mill was built'));
    await decide({
      kind: 'touch',
      touch: {
        kind: 'text',
        scope: { kind: 'page', page: about },
        place: at.anchor,
        to: 'It ground barley for two hundred years.',
      },
    });
    const { body } = await house.owner.get<Metadata>(`/api/sites/${site}/metadata`);
    expect(body.rows.find(({ id }) => id === about)?.suggestedDescription).toBe(
      'It ground barley for two hundred years.',
    );
  });
});

describe('a heading that was corrected', () => {
  it('names its section, and the address of the home that was', async () => {
    const [home, visit] = [await idOf('index.html'), await idOf('visit/index.html')];
    const heading = placeOf(files['index.html'] ?? '', ({ tag, words }) => tag === 'h1' && words === 'Home');
    await decide({
      kind: 'touch',
      touch: { kind: 'text', scope: { kind: 'page', page: home }, place: heading.anchor, to: 'Between sea and sky' },
    });
    const { body: inside } = await house.owner.get<PageInside>(`/api/sites/${site}/pages/${home}/inside`);
    expect(inside.sections.map(({ name, label }) => [name, label])).toEqual([
      ['Home', 'Between sea and sky'],
      ['More about home', 'More about home'],
    ]);
    const answer = await house.owner.post<HomePreview>(`/api/sites/${site}/pages/${visit}/home-preview`, {});
    if (answer.status !== 200) throw new Error(JSON.stringify(answer.body));
    const { body: preview } = answer;
    expect(preview.former).toMatchObject({ id: home, address: '/between-sea-and-sky.html', canChoose: true });
    await back();
  });
});

describe('a link that was led elsewhere', () => {
  it('says where it leads now', async () => {
    const [about, news] = [await idOf('about.html'), await idOf('news.html')];
    const at = placeOf(files['about.html'] ?? '', ({ words }) => words === 'Part 2');
    const before = await point(about, at.start, at.child);
    expect(before.link).toMatchObject({ href: 'visit/index.html', isHome: false, leads: '/visit' });
    const touch = {
      kind: 'link',
      scope: { kind: 'page', page: about },
      place: before.link?.anchor,
      leads: before.link?.leads,
      target: { kind: 'page', page: news },
    };
    await decide({ kind: 'touch', touch });
    expect((await point(about, at.start, at.child)).link).toMatchObject({ href: 'news.html', page: news });
    await decide({ kind: 'touch', touch: { ...touch, target: { kind: 'home' } } });
    expect((await point(about, at.start, at.child)).link).toMatchObject({
      page: await idOf('index.html'),
      isHome: true,
    });
    await back();
    await back();
  });

  it('everywhere means by where it leads, however a page spells it', async () => {
    const about = await idOf('about.html');
    const at = placeOf(files['about.html'] ?? '', ({ words }) => words === 'Contact');
    const { link } = await point(about, at.start, at.child);
    const everywhere = {
      kind: 'link',
      scope: { kind: 'everywhere' },
      place: link?.anchor,
      leads: link?.leads,
      target: { kind: 'url', url: 'https://shed.example/' },
    };
    const { body } = await house.owner.post<{ everywhere: number }>(`/api/sites/${site}/touches/places`, {
      page: about,
      touch: everywhere,
    });
    // On its own page it is no link; in the folder it is written `../contact.html`.
    expect(body.everywhere).toBe(5);
  });
});

describe('how many pages lead to a page', () => {
  it('is counted in the draft: without a link that leads elsewhere now, and with one to it', async () => {
    const counts = async () => {
      await checkDraft(house.server.deps, site);
      return Object.fromEntries(
        (await house.owner.pages(site)).map(({ sourcePath, linksIn }) => [sourcePath, linksIn]),
      );
    };
    const before = await counts();
    const [about, news] = [await idOf('about.html'), await idOf('news.html')];
    const at = placeOf(files['about.html'] ?? '', ({ words }) => words === 'News');
    const { link } = await point(about, at.start, at.child);
    await decide({
      kind: 'touch',
      touch: {
        kind: 'link',
        scope: { kind: 'everywhere' },
        place: link?.anchor,
        leads: link?.leads,
        target: { kind: 'page', page: about },
      },
    });
    // The lists in the contents of two pages, which call it “Part 1” and “Part 2”, still lead there.
    expect([before['news.html'], (await counts())['news.html']]).toEqual([5, 2]);
    await back();
    expect(await counts()).toEqual(before);
    await decide({ kind: 'place', node: news, parent: about, after: null });
    expect((await counts())['news.html']).toBe(before['news.html']);
    await back();
  });
});

describe('home', () => {
  it('is a meaning: after a change of the menu as well, “Home” leads to whichever page is home', async () => {
    const [visit, index] = [await idOf('visit/index.html'), await idOf('index.html')];
    const { body: preview } = await house.owner.post<HomePreview>(`/api/sites/${site}/pages/${visit}/home-preview`, {});
    expect(preview.leading.map(({ kind, label, pages }) => `${kind} ${label} ${pages}`)).toContain('menu Home 6');
    await decide({ kind: 'home', page: visit, formerAddress: '/old-front' });
    const [menu] = (await house.owner.get<{ menus: MenuRow[] }>(`/api/sites/${site}/menus`)).body.menus;
    expect(menu?.items[0]).toMatchObject({ label: 'Home', target: { kind: 'home' } });
    const items = menu?.items.map((item) => (item.label === 'News' ? { ...item, label: 'What is new' } : item));
    await decide({ kind: 'menu', menu: menu?.id, items, whereItDiffers: false });
    await decide({ kind: 'redirect', from: '/index.php', to: { status: 301, target: { kind: 'home' } } });
    await house.owner.publish(site);
    const get = (path: string) => house.visit('saltmarsh-mill.localhost', path);
    const about = (await get('/about.html')).body;
    expect(about).toContain('<A HREF=index.html>Home</A>');
    expect(about).toContain('<A HREF=news.html>What is new</A>');
    expect((await get('/')).body).toContain('<H1>Visit</H1>');
    expect((await get('/old-front.html')).body).toContain('<H1>Home</H1>');
    expect(await get('/index.php')).toMatchObject({ status: 301, location: '/' });
    // The menu of the former home, now elsewhere, leads to the new one too.
    expect((await get('/old-front.html')).body).toMatch(/<a href="?\.\/"?>Home<\/a>/i);
    for (let n = 0; n < 3; n += 1) await back();
    expect((await house.owner.pages(site)).find(({ isHome }) => isHome)?.id).toBe(index);
  });
});
