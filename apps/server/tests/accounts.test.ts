/** Accounts: passwords, changed and set anew, and sessions. */
import type { Session } from '@fastigium/contracts/api/session';
import type { TrailEntry } from '@fastigium/contracts/api/trail';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { SMTPServer } from 'smtp-server';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { run } from '../src/cli/main.ts';
import { GOOD, NEXT, account, again, code, house, idOf, joined, useAccounts } from './accounts.house.ts';
import type { Client } from './client.ts';

const mails: string[] = [];
const mailServer = new SMTPServer({
  authOptional: true,
  disabledCommands: ['STARTTLS'],
  onData(stream, _session, done) {
    let text = '';
    stream.on('data', (piece: Buffer) => (text += piece.toString()));
    stream.on('end', () => {
      mails.push(text);
      done();
    });
  },
});

let mailPort: number;
beforeAll(async () => {
  await new Promise<void>((resolve) => mailServer.listen(0, '127.0.0.1', () => resolve()));
  mailPort = (mailServer.server.address() as { port: number }).port;
});
afterAll(() => new Promise<void>((resolve) => mailServer.close(() => resolve())));
useAccounts(() => ({
  FASTIGIUM_MAIL_URL: `smtp://127.0.0.1:${mailPort}`,
  FASTIGIUM_MAIL_FROM: 'Fastigium <site@house.example>',
}));

describe('a password', () => {
  it('is refused where it is known, made of the own name, or a row of keys; each is told why', async () => {
    const { client } = await joined('editor');
    const refused = {
      // The first two have more than ten characters and stand among the most used ones of published breaches.
      password123: 'breaches',
      qwertyuiop12: 'breaches',
      aaaaaaaaaaaaaa: 'repeats',
      fastigium2026: 'name',
      'Person 1@house': undefined,
    };
    for (const [next, why] of Object.entries(refused)) {
      const answer = await client.put('/api/account/password', { password: GOOD, next });
      if (why === undefined) continue;
      expect(code(answer), next).toBe('password-known');
      expect(JSON.stringify(answer.body), next).toContain(why);
    }
    const { body } = await house.owner.post<{ token: string }>('/api/invitations', { role: 'editor' });
    const stranger = house.client();
    await stranger.start();
    expect(
      code(
        await stranger.post(`/api/join/${body.token}`, {
          name: 'Bran Moor',
          email: 'bran.moor@house.example',
          password: 'bran.moor@house.example',
        }),
      ),
    ).toBe('password-known');
  });

  it('is changed by whoever knows it; every other session ends, and this one goes on', async () => {
    const { client, email } = await joined('editor');
    const other = await again(email);
    expect(code(await client.put('/api/account/password', { password: 'not this one', next: NEXT }))).toBe(
      'password-wrong',
    );
    expect((await other.get('/api/sites')).status).toBe(200);
    expect((await client.put('/api/account/password', { password: GOOD, next: NEXT })).status).toBe(200);
    expect((await other.get('/api/sites')).status).toBe(401);
    expect((await client.get('/api/sites')).status).toBe(200);
    expect(code(await house.client().signIn(email, GOOD))).toBe('sign-in-wrong');
    await again(email, NEXT);
  });

  it('is not guessed at an open screen: after ten wrong ones it waits, and signing in elsewhere does not', async () => {
    const { client, email } = await joined('editor');
    const change = (password: string) => client.put('/api/account/password', { password, next: NEXT });
    for (let n = 0; n < 9; n += 1) expect(code(await change(`guess number ${n}`))).toBe('password-wrong');
    // A right one forgives those before it.
    expect(code(await client.post('/api/account/codes', { name: 'Phone', password: GOOD }))).toBeUndefined();
    for (let n = 0; n < 10; n += 1) expect(code(await change(`guess number ${n}`))).toBe('password-wrong');
    expect(code(await change('guess number 11'))).toBe('sign-in-throttled');
    expect(code(await change(GOOD))).toBe('sign-in-throttled');
    await again(email);
  });

  it('is set anew by a link of an owner: once, within its time, as long as its maker is an owner', async () => {
    const { client, email } = await joined('editor');
    const link = async (maker: Client) =>
      (await maker.post<{ token: string }>(`/api/people/${await idOf(email)}/reset`)).body.token;
    expect((await client.post(`/api/people/${await idOf(email)}/reset`)).status).toBe(403);
    const first = await link(house.owner);
    const stranger = house.client();
    await stranger.start();
    expect((await stranger.get(`/api/reset/${first}`)).body).toMatchObject({ email });
    expect(code(await stranger.post(`/api/reset/${first}`, { password: 'password123' }))).toBe('password-known');
    expect((await stranger.post(`/api/reset/${first}`, { password: NEXT })).status).toBe(200);
    // It lets nobody in by itself, and whoever was in is out.
    expect((await stranger.get('/api/account')).status).toBe(401);
    expect((await client.get('/api/account')).status).toBe(401);
    await again(email, NEXT);
    expect(code(await stranger.post(`/api/reset/${first}`, { password: GOOD }))).toBe('reset-ended');

    const [one, other] = [await link(house.owner), await link(house.owner)];
    const { until } = (await stranger.get<{ until: string }>(`/api/reset/${one}`)).body;
    expect((Date.parse(until) - Date.now()) / 3_600_000, 'hours').toBeCloseTo(24, 1);
    const twice = await Promise.all([1, 2].map(() => stranger.post(`/api/reset/${one}`, { password: GOOD })));
    expect(twice.map(({ status }) => status).sort()).toEqual([200, 410]);
    expect(code(await stranger.get(`/api/reset/${other}`)), 'a password that was set ends every link').toBe(
      'reset-ended',
    );

    const late = await link(house.owner);
    await house.server.deps.db.run(`update password_reset set expires_at = now() - interval '1 second'`);
    expect(code(await stranger.get(`/api/reset/${late}`))).toBe('reset-ended');

    const { email: gone } = await joined('editor');
    const goneId = await idOf(gone);
    const ofGone = (await house.owner.post<{ token: string }>(`/api/people/${goneId}/reset`)).body.token;
    expect((await house.owner.send('DELETE', `/api/people/${goneId}`)).status).toBe(200);
    expect(code(await stranger.post(`/api/reset/${ofGone}`, { password: GOOD }))).toBe('reset-ended');

    const { client: second, email: secondEmail } = await joined('owner');
    const theirs = await link(second);
    await house.owner.put(`/api/people/${await idOf(secondEmail)}/role`, { role: 'editor' });
    expect(code(await stranger.post(`/api/reset/${theirs}`, { password: GOOD }))).toBe('reset-ended');
    expect(
      await house.server.deps.db.many('select 1 from password_reset where token_hash = $1', [theirs]),
      'the token itself is kept nowhere',
    ).toEqual([]);
  });

  it('that could not be set leaves its link as good as before', async () => {
    const { email } = await joined('editor');
    const { body } = await house.owner.post<{ token: string }>(`/api/people/${await idOf(email)}/reset`);
    const stranger = house.client();
    await stranger.start();
    const { db } = house.server.deps;
    await db.run('alter table person add constraint no_new_passwords check (password_changed_at is null) not valid');
    try {
      expect((await stranger.post(`/api/reset/${body.token}`, { password: NEXT })).status).toBe(500);
    } finally {
      await db.run('alter table person drop constraint no_new_passwords');
    }
    await again(email);
    expect((await stranger.post(`/api/reset/${body.token}`, { password: NEXT })).status).toBe(200);
    await again(email, NEXT);
  });

  it('is set anew by mail; nobody learns who has an account, and nobody’s mailbox is filled', async () => {
    const { email } = await joined('editor');
    const stranger = house.client();
    await stranger.start();
    expect((await stranger.get<Session>('/api/session')).body.hasMail).toBe(true);
    mails.length = 0;
    const real = await stranger.post('/api/forgot', { email });
    const none = await stranger.post('/api/forgot', { email: 'nobody@house.example' });
    expect([real.status, real.body]).toEqual([none.status, none.body]);
    await expect.poll(() => mails.length).toBe(1);
    expect(mails[0]).toContain(`To: ${email}`);
    const token = /\/reset\/([\w-]+)/.exec(mails[0]?.replace(/=\r\n/g, '') ?? '')?.[1];
    const { until } = (await stranger.get<{ until: string }>(`/api/reset/${token}`)).body;
    expect((Date.parse(until) - Date.now()) / 3_600_000, 'hours').toBeCloseTo(1, 1);
    expect((await stranger.post(`/api/reset/${token}`, { password: NEXT })).status).toBe(200);
    await again(email, NEXT);
    for (let n = 0; n < 2; n += 1) expect((await stranger.post('/api/forgot', { email })).status).toBe(200);
    expect(code(await stranger.post('/api/forgot', { email }))).toBe('sign-in-throttled');
  });
});

describe('sessions', () => {
  it('are listed, and ended one by one, all others at once, and all of somebody by an owner', async () => {
    const { client, email } = await joined('editor');
    const [one, two] = [await again(email), await again(email)];
    const listed = (await account(client)).sessions;
    expect(listed).toHaveLength(3);
    expect(listed.filter(({ isThis }) => isThis)).toHaveLength(1);
    const oneId = (await account(one)).sessions.find(({ isThis }) => isThis)?.id;
    const stranger = (await joined('editor')).client;
    expect((await stranger.send('DELETE', `/api/account/sessions/${oneId}`)).status).toBe(404);
    const site = await house.owner.newSite('Listened to');
    const stream = await fetch(`${one.base}/api/sites/${site}/events`, { headers: { cookie: one.cookie } });
    const reader = stream.body?.getReader();
    await reader?.read();
    expect((await client.send('DELETE', `/api/account/sessions/${oneId}`)).status).toBe(200);
    let isDone = false;
    while (!isDone) isDone = (await reader?.read())?.done ?? true;
    expect((await one.get('/api/account')).status).toBe(401);
    expect((await client.send('DELETE', '/api/account/sessions')).status).toBe(200);
    expect((await two.get('/api/account')).status).toBe(401);
    expect((await account(client)).sessions).toHaveLength(1);
    expect((await house.owner.send('DELETE', `/api/people/${await idOf(email)}/sessions`)).status).toBe(200);
    expect((await client.get('/api/account')).status).toBe(401);
  });
});

describe('whoever runs the server', () => {
  it('makes a link for an owner who has lost their password, and it stands in the trail', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'fastigium-reset-'));
    const config = join(folder, 'settings');
    await writeFile(
      config,
      `FASTIGIUM_DATABASE_URL=${house.databaseUrl}\nFASTIGIUM_SECRET=${'s'.repeat(40)}\nFASTIGIUM_SEAL_KEY=${'5e'.repeat(32)}\nFASTIGIUM_PUBLIC_URL=http://fastigium.test\n`,
    );
    const said: string[] = [];
    const write = { out: (text: string) => void said.push(text), problem: (text: string) => void said.push(text) };
    expect(await run(['reset', 'nobody@house.example', '--config', config], write)).toBe(2);
    expect(said.join('')).toContain('Nobody here has the address nobody@house.example');
    const { email } = await joined('owner');
    expect(await run(['reset', email, '--config', config], write)).toBe(0);
    const token = /http:\/\/fastigium\.test\/reset\/([\w-]+)/.exec(said.join(''))?.[1];
    const stranger = house.client();
    await stranger.start();
    expect((await stranger.post(`/api/reset/${token}`, { password: NEXT })).status).toBe(200);
    await again(email, NEXT);
    const { entries } = (await house.owner.get<{ entries: TrailEntry[] }>('/api/trail?kind=people')).body;
    expect(entries[0]).toMatchObject({ who: '', request: 'command line', address: '' });
    await rm(folder, { recursive: true, force: true });
  });
});
