/** A site moved under a path and back, published each time, asked of the host as visitors do. */
import { speak } from '../src/words.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openHouse, SMALL_SITE, zip, type House } from './harness.ts';

let house: House;
let site: string;
const FILES: Readonly<Record<string, string>> = {
  ...SMALL_SITE,
  'style.css': 'body { background: url(/paper.png) } a { background: url(paper.png) }',
};

beforeAll(async () => {
  house = await openHouse();
  site = await house.owner.newSite('Under a path');
  await house.owner.bringIn(site, await zip(FILES));
  await house.owner.publish(site);
});
afterAll(() => house.stop());

const get = (path: string, name = 'under-a-path.localhost') => house.visit(name, path);
const moveTo = async (path: string) => {
  const decided = await house.owner.decide(site, { kind: 'base-path', path });
  return { ...decided, publish: async () => expect(await house.owner.publish(site)).toMatchObject({ state: 'done' }) };
};

describe('under a path', () => {
  it('is a change that is shown before anybody sees it', async () => {
    const { body } = await moveTo('museum/');
    expect(speak(body.message)).toBe('The site is published under /museum/');
    expect((await house.owner.pages(site)).map(({ address, isHome }) => `${address}${isHome ? ' home' : ''}`)).toEqual([
      '/museum/ home',
      '/museum/404.html',
      '/museum/visit/',
      '/museum/welcome/',
    ]);
    const { changes, sending } = await house.owner.changes(site);
    expect(changes.length).toBeGreaterThan(0);
    // Only what says something from the root is sent anew; all other contents are at the host already.
    expect(sending?.files).toBe(4);
    expect(await get('/visit/')).toMatchObject({ status: 200 });
    expect(
      (await house.owner.post<{ hops: object[]; end: string }>(`/api/sites/${site}/proofs`, { address: '/visit/' }))
        .body,
    ).toMatchObject({
      hops: [{ address: '/visit/', status: 301, location: '/museum/visit/' }, {}],
      end: 'page',
      title: 'Visit',
    });
  });

  it('once published, answers there; the addresses of before lead there; its own 404 page is shown', async () => {
    await house.owner.publish(site);
    const page = await get('/museum/welcome/');
    expect(page.status).toBe(200);
    expect(page.body).toContain('href="/museum/nowhere/"');
    for (const relative of ['href="../style.css"', 'href="../visit/"']) expect(page.body).toContain(relative);
    expect((await get('/museum/style.css')).body).toBe(
      'body { background: url(/museum/paper.png) } a { background: url(paper.png) }',
    );
    expect(await get('/museum/paper.png')).toMatchObject({ status: 200, body: SMALL_SITE['paper.png'] });
    expect(await get('/visit/?a=1')).toMatchObject({ status: 301, location: '/museum/visit/?a=1' });
    // Every address ever answered: files, a folder without its slash, a page by its file's name.
    expect(await get('/paper.png')).toMatchObject({ status: 301, location: '/museum/paper.png' });
    expect(await get('/style.css')).toMatchObject({ status: 301, location: '/museum/style.css' });
    expect(await get('/visit')).toMatchObject({ status: 301, location: '/museum/visit/' });
    expect(await get('/visit/index.html')).toMatchObject({ status: 301, location: '/museum/visit/' });
    expect(await get('/')).toMatchObject({ status: 301, location: '/museum/' });
    expect(await get('/nowhere')).toMatchObject({ status: 404, body: SMALL_SITE['404.html'] });
  });

  it('a redirect, a title and a home page go on working there', async () => {
    const { id } = await house.owner.page(site, '/museum/visit/');
    await house.owner.decide(site, {
      kind: 'redirect',
      from: '/old.php?id=1',
      to: { status: 301, target: { kind: 'page', page: id } },
    });
    await house.owner.decide(site, { kind: 'title', page: id, title: 'Come by' });
    const home = await house.owner.page(site, '/museum/welcome/');
    await house.owner.decide(site, { kind: 'home', page: home.id });
    await house.owner.publish(site);
    expect(await get('/old.php?id=1')).toMatchObject({ status: 301, location: '/museum/visit/' });
    const visit = await get('/museum/visit/');
    expect(visit.body).toContain('<title>Come by</title>');
    expect(visit.body).toContain('href="/museum/"');
    expect(await get('/museum/welcome/')).toMatchObject({ status: 301, location: '/museum/' });
    expect((await get('/museum/')).body).toContain('<title>Welcome</title>');
  });

  it('as a path of the host, beside its own temporary name', async () => {
    await (await moveTo('/under-a-path')).publish();
    expect(await get('/under-a-path/visit/', 'sites.localhost')).toMatchObject({ status: 200 });
    expect(await get('/nobody/', 'sites.localhost')).toMatchObject({ status: 404 });
    expect(await get('/museum/visit/')).toMatchObject({ status: 301, location: '/under-a-path/visit/' });
  });

  it('and back to the root: inner links are those that were imported, byte for byte', async () => {
    await (await moveTo('')).publish();
    expect((await get('/style.css')).body).toBe(FILES['style.css']);
    expect(await get('/under-a-path/visit/')).toMatchObject({ status: 301, location: '/visit/' });
    expect(await get('/museum/visit/')).toMatchObject({ status: 301, location: '/visit/' });
    // All of them by one rule, pictures and what nobody thought of among them; what was never there is told as lost.
    expect(await get('/museum/paper.png?v=1')).toMatchObject({ status: 301, location: '/paper.png?v=1' });
    expect(await get('/museum/visit')).toMatchObject({ status: 301, location: '/visit' });
    expect(await get('/under-a-path/nowhere/')).toMatchObject({ status: 301, location: '/nowhere/' });
    expect(
      (await house.owner.post<{ end: string }>(`/api/sites/${site}/proofs`, { address: '/museum/nowhere/' })).body,
    ).toMatchObject({ end: 'missing' });
    expect(await get('/old.php?id=1')).toMatchObject({ status: 301, location: '/visit/' });
    expect((await get('/visit/')).body).toBe(
      FILES['visit/index.html']
        ?.replace('<title>Visit</title>', '<title>Come by</title>')
        .replace('href="/welcome/"', 'href="/"'),
    );
  });

  it('is refused for what is no path, and for where it is already', async () => {
    for (const path of ['../up', '/a b', '/a?b', '/.hidden', '//x'])
      expect((await moveTo(path)).body.error?.code, path).toBe(path === '//x' ? undefined : 'base-path-unreadable');
    expect((await moveTo('x/')).body.error?.code).toBe('base-path-same');
  });
});

describe('addresses nobody ever saw', () => {
  it('get no redirect; those that a release had do, also when the move was taken back', async () => {
    const own = await house.owner.newSite('Moves twice');
    await house.owner.bringIn(own, await zip(FILES));
    const { id } = await house.owner.page(own, '/visit/');
    const ask = (path: string) => house.visit('moves-twice.localhost', path);
    await house.owner.publish(own);
    await house.owner.decide(own, { kind: 'rename', page: id, address: '/never/' });
    await house.owner.decide(own, { kind: 'rename', page: id, address: '/come/' });
    await house.owner.publish(own);
    expect(await ask('/visit/')).toMatchObject({ status: 301, location: '/come/' });
    expect(await ask('/never/')).toMatchObject({ status: 404 });
    for (let n = 0; n < 2; n += 1) await house.owner.decide(own, { kind: 'step', direction: 'back' });
    await house.owner.publish(own);
    expect((await ask('/visit/')).status).toBe(200);
    expect(await ask('/come/')).toMatchObject({ status: 301, location: '/visit/' });
  });
});
