/** People: invited by a link, in a role, taken away at once; and every route with each role and with none. */
import { api } from '@fastigium/contracts/api';
import { ROLES, type Endpoint, type Role } from '@fastigium/contracts/endpoint';
import type { People } from '@fastigium/contracts/api/people';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from './client.ts';
import { openHouse, SMALL_SITE, zip, type House } from './harness.ts';

let house: House;
let site: string;
beforeAll(async () => {
  house = await openHouse();
  site = await house.owner.newSite('Small');
  await house.owner.bringIn(site, await zip(SMALL_SITE));
});
afterAll(() => house.stop());

const people = async () => (await house.owner.get<People>('/api/people')).body;
const inviteAs = async (role: Role) =>
  (
    await house.owner.post<{ token: string }>('/api/invitations', {
      role,
      ...(role === 'client' ? { sites: [site] } : {}),
    })
  ).body.token;
async function joined(role: Role, email: string): Promise<Client> {
  const client = house.client();
  await client.start();
  const answer = await client.post(`/api/join/${await inviteAs(role)}`, {
    name: `A ${role}`,
    email,
    password: 'long enough for me',
  });
  expect(answer.status).toBe(201);
  return client;
}

describe('an invitation', () => {
  it('lets one person in, in its role, once', async () => {
    const token = await inviteAs('editor');
    const visitor = house.client();
    await visitor.start();
    expect((await visitor.get(`/api/join/${token}`)).body).toMatchObject({ by: 'Ada Stone', role: 'editor' });
    expect(
      (await visitor.post(`/api/join/${token}`, { name: 'Bran', email: 'bran@house.example', password: 'short' }))
        .status,
    ).toBe(400);
    expect(
      (
        await visitor.post(`/api/join/${token}`, {
          name: 'Bran',
          email: 'ADA@house.example',
          password: 'long enough for me',
        })
      ).body,
    ).toMatchObject({ error: { code: 'email-taken' } });
    expect(
      (
        await visitor.post(`/api/join/${token}`, {
          name: 'Bran',
          email: 'bran@house.example',
          password: 'long enough for me',
        })
      ).status,
    ).toBe(201);
    expect((await people()).members.find(({ email }) => email === 'bran@house.example')).toMatchObject({
      role: 'editor',
      initials: 'B',
    });
    expect(
      (
        await visitor.post(`/api/join/${token}`, {
          name: 'Cai',
          email: 'cai@house.example',
          password: 'long enough for me',
        })
      ).body,
    ).toMatchObject({ error: { code: 'invitation-ended' } });
  });

  it('runs out, can be taken back, and is kept only as a hash', async () => {
    const token = await inviteAs('reviewer');
    const rows = await house.server.deps.db.many<{ hash: string }>('select token_hash as hash from invitation');
    expect(rows.every(({ hash }) => /^[0-9a-f]{64}$/.test(hash) && hash !== token)).toBe(true);
    const [open] = (await people()).invitations;
    expect((await house.owner.send('DELETE', `/api/invitations/${open?.id}`)).status).toBe(200);
    expect((await house.client().get(`/api/join/${token}`)).status).toBe(410);
    const old = await inviteAs('reviewer');
    await house.server.deps.db.run(
      `update invitation set expires_at = now() - interval '1 second' where used_by is null`,
    );
    expect((await house.client().get(`/api/join/${old}`)).body).toMatchObject({ error: { code: 'invitation-ended' } });
    expect((await house.client().get('/api/join/not-a-token-but-long-enough')).status).toBe(410);
  });
});

describe('a role', () => {
  it('can be changed, and access ends with the very next request', async () => {
    const client = await joined('editor', 'dai@house.example');
    const id = (await people()).members.find(({ email }) => email === 'dai@house.example')?.id;
    expect((await client.post('/api/sites', { name: 'By Dai' })).status).toBe(201);
    // Who sees what, and who was here when, is told to owners.
    const told = (await client.get<People>('/api/people')).body.members.map(({ access }) => access);
    expect(told.length).toBeGreaterThan(1);
    expect(new Set(told)).toEqual(new Set([null]));
    expect((await people()).members.every(({ access }) => access !== null)).toBe(true);
    await house.owner.put(`/api/people/${id}/role`, { role: 'reviewer' });
    expect((await client.post('/api/sites', { name: 'Again' })).body).toMatchObject({ error: { code: 'not-allowed' } });
    expect((await house.owner.send('DELETE', `/api/people/${id}`)).status).toBe(200);
    expect((await client.get('/api/sites')).status).toBe(401);
    expect((await client.signIn('dai@house.example', 'long enough for me')).status).toBe(401);
    // The address is free again.
    await joined('editor', 'dai@house.example');
  });

  it('of the last owner stays', async () => {
    const id = (await people()).members.find(({ role }) => role === 'owner')?.id;
    expect((await house.owner.put(`/api/people/${id}/role`, { role: 'editor' })).body).toMatchObject({
      error: { code: 'last-owner' },
    });
    expect((await house.owner.send('DELETE', `/api/people/${id}`)).body).toMatchObject({
      error: { code: 'last-owner' },
    });
    expect((await house.owner.send('DELETE', '/api/people/00000000-0000-4000-8000-000000000000')).status).toBe(404);
  });
});

/** Questions that need a body: they change nothing. */
const ASKING = new Set([
  'POST /sites/:site/metadata/data/check',
  'POST /sites/:site/patterns/preview',
  'POST /sites/:site/proofs',
  'POST /sites/:site/previews',
  'POST /sites/:site/pages/:page/pointed',
  'POST /sites/:site/touches/places',
  'POST /sites/:site/pages/:page/rename-preview',
  'POST /sites/:site/pages/:page/home-preview',
  'POST /sites/:site/address-style-preview',
  'POST /sites/:site/removals/preview',
  'POST /sites/:site/removals/put-back-preview',
  // Of what is told to oneself.
  'PUT /sites/:site/notices/:notice/seen',
]);

describe('every route', () => {
  const endpoints = Object.values(api).flatMap((feature) => Object.values(feature) as Endpoint[]);

  it('that changes something asks for an editor at least', () => {
    expect(endpoints.length).toBeGreaterThan(60);
    const open = endpoints
      .filter(
        ({ method, access, path }) =>
          method !== 'GET' && access !== 'editor' && access !== 'owner' && !ASKING.has(`${method} ${path}`),
      )
      .map(({ method, path }) => `${method} ${path}`);
    // Signing in and out, the first owner, and joining are for people who have no role yet.
    const ofStrangers = [
      'POST /session',
      'POST /session/second',
      'DELETE /session',
      'POST /owner',
      'POST /join/:token',
      'POST /reset/:token',
      'POST /forgot',
    ];
    // Everybody’s own account is theirs.
    expect(open.filter((line) => !ofStrangers.includes(line) && !line.includes(' /account/'))).toEqual([]);
  });

  it('opens to clients what is shown to them, and nothing else', () => {
    expect(
      endpoints
        .filter(({ access, path }) => access === 'client' && !path.startsWith('/account'))
        .map(({ method, path }) => `${method} ${path}`)
        .sort(),
    ).toEqual([
      'GET /sites',
      'GET /sites/:site/client',
      'GET /sites/:site/releases/:number/report.html',
      'GET /sites/:site/releases/:number/report.pdf',
    ]);
  });

  it('refuses nobody and lower roles, and lets the others as far as their input', async () => {
    const clients: Record<Role | 'none', Client> = {
      none: house.client(),
      client: await joined('client', 'c@house.example'),
      reviewer: await joined('reviewer', 'r@house.example'),
      editor: await joined('editor', 'e@house.example'),
      owner: await joined('owner', 'o@house.example'),
    };
    await clients.none.start();
    for (const endpoint of endpoints) {
      if (endpoint.access === 'public' || endpoint.path.endsWith('/events')) continue;
      const path = `/api${endpoint.path
        .replace(':site', site)
        .replace(/:(number|of)/, '9999')
        .replace(/:token/, 'x'.repeat(30))
        .replace(/:\w+/g, '00000000-0000-4000-8000-000000000000')}`;
      for (const [who, client] of Object.entries(clients) as [Role | 'none', Client][]) {
        const rank = who === 'none' ? -1 : ROLES.indexOf(who);
        const mayPass = rank >= ROLES.indexOf(endpoint.access);
        // Those who may would change things; they are only tried with a body no endpoint takes.
        if (mayPass && endpoint.method !== 'GET') {
          const { status } = await client.send(endpoint.method, path, { nothing: 'of the kind', version: -1 });
          expect([401, 403], `${who} ${endpoint.method} ${endpoint.path}`).not.toContain(status);
          continue;
        }
        const { status } = await client.send(endpoint.method, path, endpoint.method === 'GET' ? undefined : {});
        if (mayPass) expect([401, 403], `${who} ${endpoint.method} ${endpoint.path}`).not.toContain(status);
        else expect(status, `${who} ${endpoint.method} ${endpoint.path}`).toBe(who === 'none' ? 401 : 403);
      }
    }
  });
});
