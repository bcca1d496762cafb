/** The tree, menus, listings and touches through the API, as a designer uses them; what is published is read at the host. */
import { speak } from '../src/words.ts';
import type { PageRow } from '@fastigium/contracts/api/draft';
import type { MenuRow, PageInside, Pointed, TouchPlaces, TouchRow } from '@fastigium/contracts/api/pages';
import { readFileSync } from 'node:fs';
import { request } from 'node:http';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openHouse, zip, type House } from './harness.ts';
import { DEMO, demoFiles } from './pages.files.ts';

let house: House;
let site: string;
beforeAll(async () => {
  house = await openHouse();
  site = await house.owner.newSite('Lanternmoor');
  await house.owner.bringIn(site, await zip(demoFiles()));
}, 120_000);
afterAll(() => house.stop());

const MAIN_MENU = {
  code: 'menu.beginning-with',
  parameters: { menu: { code: 'menu.main', parameters: {} }, first: 'Home' },
};

const decide = async (decision: object) => {
  const answer = await house.owner.decide(site, decision);
  return {
    status: answer.status,
    words: answer.status === 201 ? speak(answer.body.message) : '',
    made: (answer.body as { made?: string }).made ?? '',
    code: answer.body.error?.code,
  };
};
const rows = () => house.owner.pages(site);
const at = async (address: string): Promise<PageRow> => house.owner.page(site, address);
const draft = async (path: string): Promise<string> => {
  const { body } = await house.owner.post<{ origins: { seen: string } }>(`/api/sites/${site}/previews`);
  const origin = new URL(body.origins.seen);
  return new Promise((resolve, reject) => {
    request({ host: '127.0.0.1', port: origin.port, path, headers: { host: origin.host } }, (res) => {
      let text = '';
      res.on('data', (piece: Buffer) => (text += piece.toString()));
      res.on('end', () =>
        resolve(res.statusCode === 200 ? text : `${res.statusCode} ${res.headers.location ?? ''}`.trim()),
      );
    })
      .on('error', reject)
      .end();
  });
};
const back = () => decide({ kind: 'step', direction: 'back' });
const step = async (steps: number) => {
  for (let n = 0; n < steps; n += 1) expect((await back()).status).toBe(201);
};

describe('the tree', () => {
  it('names pages without what all titles end in, and says which menus they stand in', async () => {
    const visit = await at('/visit/');
    expect(visit).toMatchObject({
      kind: 'page',
      label: 'Visit',
      title: 'Visit · Lanternmoor Observatory',
      depth: 0,
      isReady: true,
      menus: [MAIN_MENU],
    });
    expect(await at('/visit/groups/')).toMatchObject({ depth: 1, parent: visit.id, menus: [] });
    expect(await at('/journal/perseids/')).toMatchObject({ date: expect.stringMatching(/^20\d\d-\d\d-\d\d$/) });
  });

  it('renames a page with everything below it; old addresses redirect, links follow', async () => {
    const visit = await at('/visit/');
    const preview = await house.owner.post<{ movesInAll: number; linkingPages: number }>(
      `/api/sites/${site}/pages/${visit.id}/rename-preview`,
      { address: '/come' },
    );
    expect(preview.body.movesInAll).toBe(6);
    expect(await decide({ kind: 'rename', page: visit.id, address: 'come' })).toMatchObject({
      status: 201,
      words: '/visit/ becomes /come/, with 5 below it',
    });
    expect((await at('/come/groups/')).parent).toBe(visit.id);
    expect(await draft('/visit/groups/')).toBe('301 /come/groups/');
    expect(await draft('/learn/')).toContain('<a href="/come/">Visit</a>');
    expect(await draft('/come/')).toContain('<a href="getting-here/">');
    // Renamed once more, what its file had leads to it; what no release ever had was nobody's.
    expect((await decide({ kind: 'rename', page: visit.id, address: '/plan/' })).status).toBe(201);
    expect(await draft('/come/groups/')).toBe('404');
    expect(await draft('/visit/')).toBe('301 /plan/');
    await step(2);
    expect(await draft('/visit/')).toContain('<h1>Visit</h1>');
    expect(await draft('/come/')).toBe('404');
  });

  it('refuses an address that is taken, a root, a query, and a place below itself', async () => {
    const [visit, groups, learn] = [await at('/visit/'), await at('/visit/groups/'), await at('/learn/')];
    expect((await decide({ kind: 'rename', page: groups.id, address: '/learn/' })).code).toBe('address-taken');
    expect((await decide({ kind: 'rename', page: groups.id, address: '/' })).code).toBe('address-is-home');
    expect((await decide({ kind: 'rename', page: groups.id, address: '/a?b=1' })).code).toBe('address-unreadable');
    expect((await decide({ kind: 'place', node: visit.id, parent: groups.id, after: null })).code).toBe(
      'move-into-itself',
    );
    expect((await decide({ kind: 'title', page: groups.id, title: 'x'.repeat(10_000) })).code).toBe('input-invalid');
    expect(
      (await decide({ kind: 'place', node: visit.id, parent: learn.id, after: '00000000-0000-4000-8000-000000000000' }))
        .code,
    ).toBe('not-found');
  });

  it('moves a page under another one, and orders without moving any address', async () => {
    const [hire, learn, moon] = [
      await at('/visit/telescope-hire/'),
      await at('/learn/'),
      await at('/sky-tonight/moon/'),
    ];
    expect((await decide({ kind: 'place', node: hire.id, parent: learn.id, after: null })).words).toBe(
      '“Telescope hire” now stands under “Learn”',
    );
    const list = await rows();
    expect(list[list.findIndex(({ id }) => id === learn.id) + 1]).toMatchObject({
      id: hire.id,
      depth: 1,
      address: '/learn/telescope-hire/',
    });
    expect(await draft('/visit/telescope-hire/')).toBe('301 /learn/telescope-hire/');
    const planets = await at('/sky-tonight/planets/');
    expect((await decide({ kind: 'place', node: planets.id, parent: moon.parent, after: null })).words).toBe(
      '“Planets” takes another place under “Sky tonight”',
    );
    const order = (await rows()).filter(({ parent }) => parent === moon.parent).map(({ address }) => address);
    expect(order).toEqual(['/sky-tonight/planets/', '/sky-tonight/moon/']);
    await step(2);
  });

  it('adds pages, copies, groups and outside links; their names stay text', async () => {
    const about = await at('/about/');
    const added = await decide({
      kind: 'add-page',
      title: 'Trustees & <friends>',
      text: 'Five people.\n\nOne <script>alert(1)</script> joke.',
      like: about.id,
      parent: about.id,
      after: null,
    });
    expect(added.words).toBe('Page “Trustees & <friends>” added at /about/trustees-friends/');
    const page = await draft('/about/trustees-friends/');
    expect(page).toContain('<title>Trustees &amp; &lt;friends> · Lanternmoor Observatory</title>');
    expect(page).toContain('<p>One &lt;script>alert(1)&lt;/script> joke.</p>');
    expect(page).toContain('<a href="/visit/">Visit</a>');
    expect(page).not.toContain('name="description"');
    const copy = await decide({ kind: 'duplicate', page: about.id, title: 'About, again' });
    expect(await at('/about-again/')).toMatchObject({ id: copy.made, isAdded: true, title: 'About, again' });
    expect(await draft('/about-again/')).toContain('href="../style/moor.css"');
    const group = await decide({ kind: 'add-group', title: 'For members', parent: null, after: about.id });
    expect((await decide({ kind: 'place', node: copy.made, parent: group.made, after: null })).status).toBe(201);
    expect((await rows()).find(({ id }) => id === copy.made)).toMatchObject({
      depth: 1,
      parent: group.made,
      address: '/about-again/',
    });
    expect(
      (
        await decide({
          kind: 'add-link',
          title: 'Shop',
          url: 'https://shop.test/',
          parent: group.made,
          after: copy.made,
        })
      ).status,
    ).toBe(201);
    expect(
      (await decide({ kind: 'add-link', title: 'Bad', url: 'javascript:alert(1)', parent: null, after: null })).code,
    ).toBe('input-invalid');
    // Renamed again while its group goes.
    expect((await decide({ kind: 'node-removed', node: group.made })).words).toBe('Group “For members” taken away');
    expect((await rows()).find(({ id }) => id === copy.made)).toMatchObject({ depth: 0 });
    await step(6);
    expect(await draft('/about-again/')).toBe('404');
  });

  it('holds back a page that is not ready: no release, no menu, no home page', async () => {
    const [learn, welcome, front] = [await at('/learn/'), await at('/welcome/'), await at('/')];
    expect((await decide({ kind: 'ready', page: learn.id, ready: false })).status).toBe(201);
    expect(await draft('/learn/')).toBe('404');
    expect(await draft('/visit/')).not.toContain('>Learn<');
    expect((await decide({ kind: 'home', page: learn.id })).code).toBe('home-not-ready');
    expect((await decide({ kind: 'ready', page: front.id, ready: false })).code).toBe('home-needed');
    await step(1);
    expect((await decide({ kind: 'in-menus', page: learn.id, shown: false })).status).toBe(201);
    expect(await draft('/visit/')).not.toContain('>Learn<');
    expect(await draft('/learn/')).toContain('<h1>Learn</h1>');
    await step(1);
    expect((await decide({ kind: 'home', page: welcome.id })).status).toBe(201);
    expect((await decide({ kind: 'rename', page: welcome.id, address: '/x/' })).code).toBe('home-keeps-address');
    await step(1);
  });

  it('takes nothing back that would put two pages at one address', async () => {
    const [groups, access] = [await at('/visit/groups/'), await at('/visit/access/')];
    await decide({ kind: 'rename', page: groups.id, address: '/visit/parties/' });
    const { version } = await house.owner.overview(site);
    await decide({ kind: 'rename', page: access.id, address: '/visit/groups/' });
    expect((await decide({ kind: 'undo', of: version })).code).toBe('address-taken');
    await step(2);
  });
});

describe('address styles', () => {
  it('say what moves, and move it: every page answers its new address, every old one redirects', async () => {
    const preview = await house.owner.post<{ movesInAll: number; moves: { from: string; to: string }[] }>(
      `/api/sites/${site}/address-style-preview`,
      { style: 'html' },
    );
    expect(preview.body.movesInAll).toBe(
      (await rows()).filter(({ address }) => address !== '/' && address !== '/404.html').length,
    );
    for (const [style, about] of [
      ['html', '/about/people.html'],
      ['bare', '/about/people'],
    ] as const) {
      expect((await decide({ kind: 'address-style', style })).status).toBe(201);
      expect(await draft(about)).toContain('<h1>People</h1>');
      expect(await draft('/about/people/')).toBe(`301 ${about}`);
      expect(await draft('/about/people/')).not.toContain('<h1>');
      const page = await draft(about);
      expect(page).toContain('href="../style/moor.css"');
      expect(page).toContain(`<a href="${style === 'html' ? '/visit.html' : '/visit'}">Visit</a>`);
    }
    // Asked for by its file’s name, a page sends visitors to its one address.
    expect(await draft('/about/people.html')).toBe('301 /about/people');
    await step(2);
    expect(await draft('/about/people/')).toContain('<h1>People</h1>');
  });
});

describe('menus', () => {
  const menus = async () => (await house.owner.get<{ menus: MenuRow[] }>(`/api/sites/${site}/menus`)).body.menus;

  it('are found, edited once and written everywhere, following pages that move', async () => {
    const [main] = await menus();
    expect(main).toMatchObject({ name: MAIN_MENU, isEdited: false });
    const journal = await at('/journal/');
    const items = [
      ...(main?.items ?? []).filter(({ label }) => label !== 'Observatory'),
      { target: { kind: 'page', page: journal.id }, label: 'Journal <i>', newWindow: false, children: [] },
    ];
    expect((await decide({ kind: 'menu', menu: main?.id, items, whereItDiffers: false })).status).toBe(201);
    expect(await draft('/visit/groups/')).toContain(
      '<a href="/cy/" lang="cy" hreflang="cy">Cymraeg</a></li><li><a href="/journal/">Journal &lt;i></a></li></ul></nav>',
    );
    expect(await draft('/visit/groups/')).not.toContain('>Observatory</a>');
    expect(await draft('/journal/perseids/')).toMatch(
      /<a (aria-current="page" )?href="\/journal\/"( aria-current="page")?>Journal/,
    );
    expect(await draft('/journal/perseids/')).toContain('aria-current="page"');
    expect(await draft('/cy/dysgu/')).not.toContain('Journal');
    await decide({ kind: 'rename', page: journal.id, address: '/news/' });
    expect(await draft('/visit/groups/')).toContain('<a href="/news/">Journal &lt;i></a>');
    expect((await at('/news/')).menus).toEqual([MAIN_MENU]);
    const gone = {
      target: { kind: 'page', page: '00000000-0000-4000-8000-000000000000' },
      label: 'Gone',
      newWindow: false,
      children: [],
    };
    expect((await decide({ kind: 'menu', menu: main?.id, items: [gone], whereItDiffers: false })).code).toBe(
      'menu-page-gone',
    );
    await step(1);
    expect((await decide({ kind: 'menu-removed', menu: main?.id })).words).toBe(
      'Main menu (Home …) is as it was imported',
    );
    expect(await draft('/visit/groups/')).toContain('>Observatory</a>');
    await step(2);
  });
});

describe('touches', () => {
  const pointed = async (page: PageRow, words: string) => {
    const source = readFileSync(join(DEMO, page.sourcePath), 'utf8');
    const text = source.indexOf(words);
    // The start tag whose text it is, as the preview says it.
    const start = source.lastIndexOf('<', text);
    return (await house.owner.post<Pointed>(`/api/sites/${site}/pages/${page.id}/pointed`, { start, child: 0 })).body;
  };

  it('correct a text where somebody points, in the scope that was answered', async () => {
    const access = await at('/visit/access/');
    const foot = await pointed(access, 'Open Thursday to Saturday from dusk. Bus 41');
    expect(foot.text).toBe('Open Thursday to Saturday from dusk. Bus 41 stops at the gate.');
    const touch = {
      kind: 'text',
      place: foot.anchor,
      to: 'Open Friday only.',
      scope: { kind: 'page', page: access.id },
    };
    const places = (
      await house.owner.post<TouchPlaces>(`/api/sites/${site}/touches/places`, { page: access.id, touch })
    ).body;
    const english = (await rows()).filter(({ language }) => language === 'en').length;
    expect(places.everywhere).toBe(english);
    await decide({ kind: 'touch', touch });
    expect(await draft('/visit/access/')).toContain('<footer><p>Open Friday only.</p></footer>');
    expect(await draft('/visit/groups/')).toContain('Bus 41 stops');
    await decide({ kind: 'touch', touch: { ...touch, scope: { kind: 'everywhere' }, to: 'Open daily.' } });
    expect(await draft('/visit/groups/')).toContain('<footer><p>Open daily.</p></footer>');
    const list = (await house.owner.get<TouchRow[]>(`/api/sites/${site}/touches`)).body;
    expect(list.map(({ state, pages, where }) => [state, pages, speak(where)])).toEqual([
      ['done', english, 'on every page where it stands'],
      ['done', 1, 'on “Access”'],
    ]);
    await step(2);
    expect(await draft('/visit/groups/')).toContain('Bus 41 stops');
  });

  it('swap the logo everywhere, in pages and style sheets, for a file added here', async () => {
    const { version } = await house.owner.overview(site);
    const logo = readFileSync(join(DEMO, 'pictures/logo.png'));
    const added = await house.owner.send<{ address: string; size: { widthPx: number; heightPx: number } }>(
      'POST',
      `/api/sites/${site}/assets?fileName=logo.png&folder=pictures&version=${version}`,
      new Uint8Array(logo),
      { 'content-type': 'application/octet-stream' },
    );
    expect(added.body).toMatchObject({ address: '/pictures/logo-2.png' });
    const touch = {
      kind: 'picture',
      scope: { kind: 'everywhere' },
      from: '/pictures/logo.png',
      to: '/pictures/logo-2.png',
      size: added.body.size,
    };
    expect((await decide({ kind: 'touch', touch })).status).toBe(201);
    expect(await draft('/visit/groups/')).toContain('src="/pictures/logo-2.png"');
    expect(await draft('/cy/dysgu/')).toContain('src="/pictures/logo-2.png"');
    await decide({
      kind: 'touch',
      touch: {
        kind: 'picture',
        scope: { kind: 'everywhere' },
        from: '/pictures/moor-at-dusk.png',
        to: '/pictures/moon.png',
      },
    });
    expect(await draft('/style/moor.css')).toContain('url("../pictures/moon.png")');
    const { body: places } = await house.owner.post<TouchPlaces>(`/api/sites/${site}/touches/places`, {
      page: (await at('/')).id,
      touch: {
        kind: 'picture',
        scope: { kind: 'everywhere' },
        from: '/pictures/moor-at-dusk.png',
        to: '/pictures/moon.png',
      },
    });
    expect(places.styles).toEqual(['/style/moor.css']);
    expect((await decide({ kind: 'touch', touch: { ...touch, to: '/pictures/none.png' } })).code).toBe(
      'file-not-there',
    );
    await step(3);
    expect(await draft('/style/moor.css')).toContain('url("../pictures/moor-at-dusk.png")');
    expect(await draft('/pictures/logo-2.png')).toBe('404');
  });

  it('order and leave out sections, leave out parts, and give a page rules of its own', async () => {
    const here = await at('/visit/getting-here/');
    const inside = (await house.owner.get<PageInside>(`/api/sites/${site}/pages/${here.id}/inside`)).body;
    expect(inside.sections.map(({ name }) => name)).toEqual(['Getting here', 'By bus and train', 'By car']);
    expect(inside.parts.map(({ part }) => part)).toEqual(['header', 'menu', 'foot']);
    const scope = { kind: 'page', page: here.id };
    await decide({
      kind: 'touch',
      touch: {
        kind: 'sections',
        scope,
        order: [
          { name: 'Getting here', nth: 0 },
          { name: 'By car', nth: 0 },
          { name: 'By bus and train', nth: 0, out: true },
        ],
      },
    });
    const page = await draft('/visit/getting-here/');
    expect(page).toContain('By car');
    expect(page).not.toContain('By bus and train');
    await decide({ kind: 'touch', touch: { kind: 'parts-out', scope, parts: ['foot'] } });
    await decide({ kind: 'touch', touch: { kind: 'css', scope, css: 'main { max-width: 60rem }' } });
    expect(await draft('/visit/getting-here/')).toMatch(/<style>\nmain \{ max-width: 60rem \}\n<\/style>\n<\/head>/);
    expect(await draft('/visit/getting-here/')).not.toContain('<footer>');
    expect(
      (await decide({ kind: 'touch', touch: { kind: 'css', scope, css: '</style><script>alert(1)</script>' } })).code,
    ).toBe('input-invalid');
    // Taken along by a copy.
    const copy = await decide({ kind: 'duplicate', page: here.id, title: 'Getting there' });
    expect(await draft('/visit/getting-there/')).not.toContain('<footer>');
    expect(copy.status).toBe(201);
    await step(4);
  });

  it('refuse a place that is not there', async () => {
    const here = await at('/visit/getting-here/');
    const place = { tag: 'p', what: 'text', mark: 'Nobody wrote this', nth: 0, under: '', way: '' };
    expect(
      (await decide({ kind: 'touch', touch: { kind: 'text', scope: { kind: 'page', page: here.id }, place, to: 'x' } }))
        .code,
    ).toBe('touch-place-lost');
  });
});

describe('a listing', () => {
  it('lists dated entries, the newest first, page by page, with a feed', async () => {
    const journal = await at('/journal/');
    expect((await decide({ kind: 'listing', page: journal.id, perPage: 5 })).status).toBe(201);
    const dates = (await rows())
      .filter(({ parent, date }) => parent === journal.id && date)
      .map(({ date, label }) => ({ date: date ?? '', label }))
      .sort((a, b) => (a.date < b.date ? 1 : -1));
    expect(dates.length).toBe(8);
    const first = await draft('/journal/');
    expect([...first.matchAll(/<li><a href="[^"]+">([^<]+)<\/a><\/li>\n/g)].map(([, label]) => label)).toEqual(
      dates.slice(0, 5).map(({ label }) => label),
    );
    expect(first).toContain('<nav class="pages"><a href="./" aria-current="page">1</a> <a href="page-2/">2</a></nav>');
    expect(await draft('/journal/page-2/')).toContain(`>${dates[5]?.label}</a>`);
    expect((await at('/journal/')).lists).toBe(8);
    const feed = await draft('/journal/feed.xml');
    expect(feed).toContain('<feed xmlns="http://www.w3.org/2005/Atom"');
    expect(feed.match(/<entry>/g)).toHaveLength(8);
    // A title changed is a title changed in the list and in the feed.
    const perseids = await at('/journal/perseids/');
    await decide({ kind: 'title', page: perseids.id, title: 'Meteors · Lanternmoor Observatory' });
    expect((await draft('/journal/')) + (await draft('/journal/page-2/'))).toContain('>Meteors</a>');
    expect(await draft('/journal/feed.xml')).toContain('<title>Meteors</title>');
    // Nor is a description another one there than in the page itself.
    const settings = [
      { scope: { kind: 'page', page: perseids.id }, name: 'meta:description', text: 'Said anew, in short', own: null },
    ];
    expect((await decide({ kind: 'head', settings })).status).toBe(201);
    expect(await draft('/journal/feed.xml')).toContain('Said anew, in short');
    await step(3);
    expect(await draft('/journal/page-2/')).toBe('404');
    expect(await draft('/journal/feed.xml')).toBe('404');
  });
});
