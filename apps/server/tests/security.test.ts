/** Signing in, forged requests, and previews that can never act on the application. */
import { request } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createPreviewLinks } from '../src/features/previews/links.ts';
import { openHouse, OWNER, SMALL_SITE, zip, type House } from './harness.ts';

let house: House;
let site: string;

beforeAll(async () => {
  house = await openHouse();
  site = await house.owner.newSite('Secure');
  await house.owner.bringIn(site, await zip(SMALL_SITE));
});
afterAll(() => house.stop());

describe('signing in', () => {
  it('makes one owner and no second', async () => {
    const client = house.client();
    await client.start();
    expect(await client.post('/api/owner', { ...OWNER, email: 'second@house.example' })).toMatchObject({
      status: 409,
      body: { error: { code: 'owner-exists' } },
    });
  });

  it('takes the right password, whatever case the address is in, and no other', async () => {
    const client = house.client();
    expect(await client.signIn(OWNER.email.toUpperCase(), OWNER.password)).toMatchObject({
      status: 200,
      body: { person: { name: 'Ada Stone', initials: 'AS', role: 'owner' } },
    });
    expect(await house.client().signIn(OWNER.email, 'wrong')).toMatchObject({
      status: 401,
      body: { error: { code: 'sign-in-wrong' } },
    });
    expect(await house.client().signIn('nobody@house.example', OWNER.password)).toMatchObject({
      status: 401,
      body: { error: { code: 'sign-in-wrong' } },
    });
  });

  it('gives a new session to whoever signs in, so that one known before is worth nothing', async () => {
    const client = house.client();
    await client.start();
    const before = client.cookie;
    await client.post('/api/session', { email: OWNER.email, password: OWNER.password });
    expect(client.cookie).not.toBe(before);
  });

  it('keeps passwords as Argon2id', async () => {
    const { hash } = await house.server.deps.db.one<{ hash: string }>(
      'select password_hash as hash from person limit 1',
    );
    expect(hash).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
  });

  it('sets a cookie no script can read and no other site makes the browser send', async () => {
    const { headers } = await house.client().signIn(OWNER.email, OWNER.password);
    expect(headers.getSetCookie()[0]).toMatch(/^fastigium=[^;]+; Path=\/; Expires=[^;]+; HttpOnly; SameSite=Strict$/);
  });

  it('is throttled for one account, and says how long', async () => {
    const client = house.client();
    await client.start();
    const codes: string[] = [];
    for (let i = 0; i < 12; i += 1) {
      const { body } = await client.post<{ error: { code: string; details: { seconds?: number } } }>('/api/session', {
        email: 'victim@house.example',
        password: `guess ${i}`,
      });
      codes.push(body.error.code);
      if (body.error.code === 'sign-in-throttled') expect(body.error.details.seconds).toBeGreaterThan(0);
    }
    expect(codes).toEqual([...Array<string>(10).fill('sign-in-wrong'), 'sign-in-throttled', 'sign-in-throttled']);
  });

  it('ends with signing out', async () => {
    const client = house.client();
    await client.signIn(OWNER.email, OWNER.password);
    expect((await client.get('/api/sites')).status).toBe(200);
    await client.send('DELETE', '/api/session', {});
    expect(await client.get('/api/sites')).toMatchObject({
      status: 401,
      body: { error: { code: 'sign-in-required' } },
    });
  });
});

describe('requests', () => {
  it('without the token of the page are refused', async () => {
    for (const token of ['', 'nonsense', `${house.owner.csrf}x`]) {
      const answer = await fetch(`${house.owner.base}/api/sites`, {
        method: 'POST',
        headers: { cookie: house.owner.cookie, 'content-type': 'application/json', 'x-csrf-token': token },
        body: JSON.stringify({ name: 'Forged' }),
      });
      expect(answer.status).toBe(403);
    }
    expect((await house.owner.get<{ name: string }[]>('/api/sites')).body.map(({ name }) => name)).toEqual(['Secure']);
  });

  it.each([
    ['no JSON', '{"name":', 400],
    ['the wrong shape', '{"name":7}', 400],
    ['an empty name', '{"name":"  "}', 400],
    ['too much', JSON.stringify({ name: 'x'.repeat(17 * 1024 * 1024) }), 400],
  ])('with %s get words, not a stack', async (_, body, status) => {
    const answer = await fetch(`${house.owner.base}/api/sites`, {
      method: 'POST',
      headers: { cookie: house.owner.cookie, 'content-type': 'application/json', 'x-csrf-token': house.owner.csrf },
      body,
    });
    expect(answer.status).toBe(status);
    const text = await answer.text();
    expect(JSON.parse(text)).toMatchObject({ error: { code: 'input-invalid' } });
    expect(text).not.toMatch(/node_modules|\bat \w+ \(/);
  });

  it('are answered under a strict content policy', async () => {
    const { headers } = await house.owner.get('/api/session');
    const policy = headers.get('content-security-policy') ?? '';
    for (const part of [
      "default-src 'self'",
      "script-src 'self'",
      "frame-ancestors 'none'",
      "base-uri 'none'",
      "object-src 'none'",
    ])
      expect(policy).toContain(part);
    expect(policy).not.toMatch(/unsafe-(inline|eval)/);
    expect(headers.get('x-content-type-options')).toBe('nosniff');
  });
});

describe('previews', () => {
  const ask = (host: string, path: string, headers: Record<string, string> = {}) =>
    new Promise<{ status: number; headers: Record<string, unknown>; body: string }>((resolve, reject) => {
      request({ host: '127.0.0.1', port: house.server.previewPort, path, headers: { host, ...headers } }, (answer) => {
        let body = '';
        answer.on('data', (piece: Buffer) => (body += piece.toString()));
        answer.on('end', () => resolve({ status: answer.statusCode ?? 0, headers: answer.headers, body }));
      })
        .on('error', reject)
        .end();
    });
  const origin = async () =>
    new URL((await house.owner.post<{ origins: { seen: string } }>(`/api/sites/${site}/previews`)).body.origins.seen);

  it('show the draft, on an origin of their own, in a sandbox', async () => {
    const { host } = await origin();
    const page = await ask(host, '/visit/');
    expect([page.status, page.body]).toEqual([200, SMALL_SITE['visit/index.html']]);
    expect(page.headers['content-security-policy']).toMatch(/^sandbox allow-scripts allow-forms allow-popups$/);
    expect(page.headers['set-cookie']).toBeUndefined();
    expect(host).toMatch(/\.preview\.localhost:\d+$/);
  });

  it('without script, and to point at things, run nothing of the page’s own', async () => {
    const { origins } = (
      await house.owner.post<{ origins: Record<'still' | 'pointing', string> }>(`/api/sites/${site}/previews`)
    ).body;
    const still = await ask(new URL(origins.still).host, '/visit/');
    expect(still.body).toBe(SMALL_SITE['visit/index.html']);
    expect(still.headers['content-security-policy']).toMatch(/^sandbox allow-forms allow-popups; script-src 'none'$/);
    const pointing = await ask(new URL(origins.pointing).host, '/visit/');
    const nonce = /script-src 'nonce-([^']+)'/.exec(String(pointing.headers['content-security-policy']))?.[1] ?? 'none';
    // Everything between what was spliced in is the page, byte for byte.
    expect(
      pointing.body
        .replace(/<script nonce="[^"]+">[\s\S]*?<\/script><style nonce="[^"]+">[^<]*<\/style>/, '')
        .replace(/ data-fastigium-at="\d+"/g, ''),
    ).toBe(SMALL_SITE['visit/index.html']);
    expect(pointing.body).toContain(`<script nonce="${nonce}">`);
    const [, at = '0'] = /<a data-fastigium-at="(\d+)"/.exec(pointing.body) ?? [];
    expect(SMALL_SITE['visit/index.html']?.slice(Number(at))).toMatch(/^<a href/);
  });

  it('can be pointed at although a page forbids all script itself, and only there', async () => {
    const own = '<meta http-equiv="Content-Security-Policy" content="default-src \'none\'">';
    const strict = await house.owner.newSite('Strict');
    await house.owner.bringIn(
      strict,
      await zip({
        'index.html': `<!DOCTYPE html><html lang="en"><head>${own}<title>Strict</title></head><body><p>Text</p></body></html>`,
      }),
    );
    const { origins } = (
      await house.owner.post<{ origins: Record<'seen' | 'pointing', string> }>(`/api/sites/${strict}/previews`)
    ).body;
    const pointing = await ask(new URL(origins.pointing).host, '/');
    expect(pointing.body).not.toContain(own);
    expect(pointing.headers['content-security-policy']).toMatch(/^sandbox allow-scripts; script-src 'nonce-/);
    expect((await ask(new URL(origins.seen).host, '/')).body).toContain(own);
  });

  it('know no session: a cookie changes nothing, and the API is not there', async () => {
    const { host } = await origin();
    expect((await ask(host, '/api/sites', { cookie: house.owner.cookie })).status).toBe(404);
    expect((await ask('localhost', '/visit/', { cookie: house.owner.cookie })).status).toBe(403);
  });

  it('of a site without anything say so, and nothing of the program', async () => {
    const empty = await house.owner.newSite('Nothing in it');
    const { body } = await house.owner.post<{ origins: { seen: string } }>(`/api/sites/${empty}/previews`);
    const answer = await ask(new URL(body.origins.seen).host, '/');
    expect(answer.status).toBe(409);
    expect(answer.body).toContain('Nothing has been brought in');
    expect(answer.body).not.toContain('node:');
  });

  it('need a name that was signed here and has not ended', async () => {
    const { host } = await origin();
    const [label = '', rest = ''] = [host.split('.')[0], host.slice(host.indexOf('.'))];
    const forged = `${label[0] === '0' ? '1' : '0'}${label.slice(1)}${rest}`;
    expect((await ask(forged, '/')).status).toBe(403);
    let now = 0;
    const linksBy = (...secrets: string[]) =>
      createPreviewLinks(
        { secrets, site: { kind: 'names', pattern: undefined } },
        () => 1,
        () => now,
      );
    const links = linksBy('secret');
    const name = new URL(links.create(site).origins.seen).host;
    expect(links.permitted(name, '/')).toEqual({ site, mode: 'seen', release: 0, under: '' });
    expect(links.permitted(name.replace('-s.', '-r12.'), '/')).toEqual({
      site,
      mode: 'release',
      release: 12,
      under: '',
    });
    expect(linksBy('other secret').permitted(name, '/')).toBeUndefined();
    // A secret of before still opens what it signed.
    expect(linksBy('other secret', 'secret').permitted(name, '/')).toMatchObject({ site });
    now = 14 * 3_600_000;
    expect(links.permitted(name, '/')).toBeUndefined();
    // RFC 1035 section 2.3.4: a label holds 63 octets at most, with the longest number of a release too.
    expect(name.replace('-s.', '-r99999999.').split('.')[0]?.length).toBeLessThanOrEqual(63);
  });

  it('answer redirects and nothing as the host will', async () => {
    await house.owner.decide(site, {
      kind: 'redirect',
      from: '/old',
      to: { status: 302, target: { kind: 'address', address: '/visit/' } },
    });
    const { host } = await origin();
    expect(await ask(host, '/old')).toMatchObject({ status: 302, headers: { location: '/visit/' } });
    expect((await ask(host, '/none')).status).toBe(404);
  });
});
