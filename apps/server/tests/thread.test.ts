/** The thread from a finished folder to a live page, and a change published again, over HTTP. */
import { speak } from '../src/words.ts';
import { createHash } from 'node:crypto';
import type { Survey } from '@fastigium/contracts/api/imports';
import type { Proof } from '@fastigium/contracts/api/draft';
import type { RedirectRow } from '@fastigium/contracts/api/redirects';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { request } from 'node:http';
import { OWN_AGENT } from '@fastigium/core/watch';
import { openHouse, SMALL_SITE, zip, type House } from './harness.ts';

let house: House;
let site: string;

/** What a visitor gets. Node's fetch does not let a Host header through, so this is plain http. */
function visit(
  path: string,
  name = 'small',
): Promise<{ status: number; location: string | undefined; body: string; type: string | undefined }> {
  return new Promise((resolve, reject) => {
    request(
      {
        host: '127.0.0.1',
        port: house.host.publicPort,
        path,
        headers: { host: `${name}.localhost`, 'user-agent': OWN_AGENT },
      },
      (answer) => {
        const pieces: Buffer[] = [];
        answer.on('data', (piece: Buffer) => pieces.push(piece));
        answer.on('end', () =>
          resolve({
            status: answer.statusCode ?? 0,
            location: answer.headers.location,
            body: Buffer.concat(pieces).toString(),
            type: answer.headers['content-type'],
          }),
        );
      },
    )
      .on('error', reject)
      .end();
  });
}

beforeAll(async () => {
  house = await openHouse();
  site = await house.owner.newSite('Small');
});
afterAll(() => house.stop());

describe('from a folder to a live page', () => {
  it('brings a zip in and says what is in it', async () => {
    const job = await house.owner.bringIn(
      site,
      await zip(Object.fromEntries(Object.entries(SMALL_SITE).map(([path, content]) => [`export/${path}`, content]))),
    );
    expect(job.state).toBe('done');
    const { body } = await house.owner.get<Survey>(`/api/sites/${site}/survey`);
    expect(body.pages.map(({ address, title }) => `${address} ${title}`)).toEqual([
      '/404.html Nothing here',
      '/ Soon',
      '/visit/ Visit',
      '/welcome/ Welcome',
    ]);
    expect(body.assets).toEqual([
      { path: 'paper.png', type: 'image/png', sizeBytes: 20, uses: 1 },
      { path: 'style.css', type: 'text/css; charset=utf-8', sizeBytes: 35, uses: 2 },
    ]);
    expect(body.links.dead).toEqual([
      { from: 'welcome/index.html', fromTitle: 'Welcome', href: '/nowhere/', element: 'a', target: '/nowhere/' },
    ]);
    const place = await house.owner.get<{
      line: number;
      lines: { text: string; mark?: { start: number; end: number } }[];
    }>(`/api/sites/${site}/survey/place?path=welcome/index.html&href=/nowhere/`);
    const [line] = place.body.lines;
    expect(line?.text.slice(line.mark?.start, line.mark?.end)).toBe('href="/nowhere/"');
  });

  it('is nobody’s before it is published', async () => {
    expect((await visit('/')).status).toBe(404);
    expect((await house.owner.overview(site)).liveUrl).toBeNull();
  });

  it('makes a page the home page', async () => {
    const page = await house.owner.page(site, '/welcome/');
    expect((await house.owner.decide(site, { kind: 'home', page: page.id })).status).toBe(201);
    expect((await house.owner.pages(site)).map(({ address }) => address)).toEqual([
      '/',
      '/404.html',
      '/soon/',
      '/visit/',
    ]);
  });

  it('maps an old address and proves it on the draft', async () => {
    const page = await house.owner.page(site, '/visit/');
    await house.owner.decide(site, {
      kind: 'redirect',
      from: '/visit.php?id=3',
      to: { status: 301, target: { kind: 'page', page: page.id } },
    });
    const { body } = await house.owner.post<Proof>(`/api/sites/${site}/proofs`, { address: '/visit.php?id=3' });
    expect(body).toEqual({
      hops: [
        { address: '/visit.php?id=3', status: 301, location: '/visit/' },
        { address: '/visit/', status: 200, location: null },
      ],
      end: 'page',
      title: 'Visit',
    });
  });

  it('publishes all of it at once', async () => {
    const before = await house.owner.changes(site);
    expect(before.sending).toEqual({ files: 6, bytes: before.whole.bytes });
    expect((await house.owner.publish(site)).state).toBe('done');
    expect(await visit('/')).toMatchObject({
      status: 200,
      type: 'text/html; charset=utf-8',
      body: SMALL_SITE['welcome/index.html']?.replace('../style.css', 'style.css').replace('../visit/', 'visit/'),
    });
    expect(await visit('/visit/')).toMatchObject({
      status: 200,
      body: SMALL_SITE['visit/index.html']?.replace('/welcome/', '/'),
    });
    expect(await visit('/visit.php?id=3')).toMatchObject({ status: 301, location: '/visit/' });
    expect(await visit('/welcome/')).toMatchObject({ status: 301, location: '/' });
    expect(await visit('/none')).toMatchObject({ status: 404, body: SMALL_SITE['404.html'] });
    expect((await house.owner.changes(site)).changes).toEqual([]);
  });

  it('sends only the file that changed when a title changes', async () => {
    const page = await house.owner.page(site, '/visit/');
    await house.owner.decide(site, { kind: 'title', page: page.id, title: 'Visit us & stay' });
    const { changes, sending } = await house.owner.changes(site);
    expect(changes).toEqual([
      {
        key: 'file:visit/index.html',
        group: 'pages',
        what: 'changed',
        subject: '/visit/',
        message: { code: 'change.page-title', parameters: { before: 'Visit', after: 'Visit us & stay' } },
      },
    ]);
    expect(sending?.files).toBe(1);
    await house.owner.publish(site);
    const [latest] = await house.owner.releases(site);
    expect(latest).toMatchObject({ number: 2, state: 'live', filesSent: 1 });
    expect((await visit('/visit/')).body).toContain('<title>Visit us &amp; stay</title>');
  });

  it('shows the evidence of a change', async () => {
    const page = await house.owner.page(site, '/visit/');
    await house.owner.decide(site, { kind: 'title', page: page.id, title: 'Third' });
    const { body } = await house.owner.get<{ lines: { sign: string; text: string }[] }>(
      `/api/sites/${site}/changes/evidence?key=${encodeURIComponent('file:visit/index.html')}`,
    );
    expect(body.lines.map(({ sign }) => sign)).toEqual(['-', '+']);
    await house.owner.decide(site, { kind: 'step', direction: 'back' });
    expect((await house.owner.changes(site)).changes).toEqual([]);
  });

  it('goes back to the release before, sending nothing', async () => {
    const { body } = await house.owner.post<{ job: string }>(`/api/sites/${site}/releases/1/rollback`);
    expect((await house.owner.ended(body.job)).state).toBe('done');
    expect((await visit('/visit/')).body).toContain('<title>Visit</title>');
    const [latest] = await house.owner.releases(site);
    expect(latest).toMatchObject({ number: 3, state: 'live', rollbackOf: 1, filesSent: 0 });
    // The draft is as it was; what was taken back is a change again.
    expect((await house.owner.changes(site)).changes.map(({ message }) => speak(message))).toEqual([
      'title “Visit” becomes “Visit us & stay”',
    ]);
  });

  it('keeps imported files byte for byte', async () => {
    const style = await visit('/style.css');
    expect(createHash('sha256').update(style.body).digest('hex')).toBe(
      createHash('sha256')
        .update(SMALL_SITE['style.css'] ?? '')
        .digest('hex'),
    );
  });
});

describe('redirects that cannot be', () => {
  const redirect = async (from: string, target: object, status = 301) =>
    (await house.owner.decide(site, { kind: 'redirect', from, to: { status, target } })).body.error?.code;

  it('are refused with the reason', async () => {
    expect(await redirect('/visit/', { kind: 'address', address: '/x' })).toBe('redirect-hidden');
    expect(await redirect('/style.css', { kind: 'address', address: '/x' })).toBe('redirect-hidden');
    expect(await redirect('/self', { kind: 'address', address: '/self' })).toBe('redirect-onto-itself');
    expect(await redirect('/one', { kind: 'address', address: '/two' })).toBeUndefined();
    expect(await redirect('/two', { kind: 'address', address: '/one' })).toBe('redirect-loop');
    expect(await redirect('mailto:x@y.example', { kind: 'address', address: '/' })).toBe('address-unreadable');
    expect(await redirect('/three', { kind: 'page', page: '00000000-0000-4000-8000-000000000000' })).toBe(
      'redirect-target-missing',
    );
    expect(await redirect('/four', { kind: 'url', url: 'javascript:alert(1)' })).toBe('input-invalid');
  });

  it('show in the list with their visits, most first', async () => {
    await house.owner.post(`/api/sites/${site}/old-addresses`, {
      addresses: [
        { address: '/visit.php?id=3', visits: 7 },
        { address: '/open', visits: 9 },
        { address: '/visit/', visits: 8 },
        { address: 'javascript:x', visits: 1 },
      ],
    });
    const { body } = await house.owner.get<{ rows: RedirectRow[] }>(`/api/sites/${site}/redirects`);
    expect(body.rows.slice(0, 3).map(({ from, origin }) => `${from} ${origin}`)).toEqual([
      '/open open',
      '/visit/ page',
      '/visit.php?id=3 decided',
    ]);
    expect(await house.owner.overview(site)).toMatchObject({ oldAddresses: 3, oldAddressesWithRule: 2 });
  });
});
