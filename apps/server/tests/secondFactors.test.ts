/** Second factors: codes by the time, passkeys, and what was written down. */
import type { Session } from '@fastigium/contracts/api/session';
import { createHmac } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { GOOD, NEXT, account, again, code, house, idOf, joined, useAccounts } from './accounts.house.ts';
import { Authenticator } from './authenticator.ts';
import type { Client } from './client.ts';

useAccounts();

/** By itself: RFC 4226, section 5.3, with the time step of RFC 6238, section 4.2. */
function codeAt(secret: string, ms: number): string {
  const bits = [...secret].map((c) => 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'.indexOf(c).toString(2).padStart(5, '0'));
  const key = Buffer.from((bits.join('').match(/.{8}/g) ?? []).map((byte) => parseInt(byte, 2)));
  const counter = Buffer.alloc(8);
  counter.writeBigUInt64BE(BigInt(Math.floor(ms / 30_000)));
  const hash = createHmac('sha1', key).update(counter).digest();
  const number = hash.readUInt32BE((hash.at(-1) ?? 0) & 15) & 0x7fffffff;
  return String(number % 1_000_000).padStart(6, '0');
}

async function withCodes(client: Client): Promise<{ secret: string; used: string; recovery: string[] }> {
  const begun = await client.post<{ factor: string; secret: string; uri: string }>('/api/account/codes', {
    password: GOOD,
    name: 'Telephone',
  });
  expect(begun.status).toBe(201);
  expect(begun.body.uri).toContain(begun.body.secret);
  // A secret that was never proved asks nobody for anything.
  expect((await account(client)).factors).toEqual([]);
  const used = codeAt(begun.body.secret, Date.now());
  const proved = await client.post<{ recoveryCodes: string[] }>(`/api/account/codes/${begun.body.factor}`, {
    code: used,
  });
  expect(proved.status).toBe(200);
  return { secret: begun.body.secret, used, recovery: proved.body.recoveryCodes };
}

async function askedSecond(email: string): Promise<{ client: Client; step: string }> {
  const client = house.client();
  await client.start();
  const { body } = await client.post<Session>('/api/session', { email, password: GOOD });
  expect(body.person).toBeNull();
  expect((await client.get('/api/account')).status).toBe(401);
  return { client, step: body.second?.step ?? '' };
}

describe('a second factor', () => {
  it('the reckoning of this test gives the codes of RFC 6238, appendix B (SHA-1; the last six of eight digits)', () => {
    const secret = 'GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ'; // "12345678901234567890" in base32
    expect(codeAt(secret, 59_000)).toBe('287082');
    expect(codeAt(secret, 1_111_111_109_000)).toBe('081804');
    expect(codeAt(secret, 20_000_000_000_000)).toBe('353130');
  });

  it('of codes is asked for after the password, each code once, wrong ones five times', async () => {
    const { client, email } = await joined('editor');
    const { secret, used } = await withCodes(client);
    expect((await account(client)).factors).toMatchObject([{ kind: 'code', name: 'Telephone' }]);

    const first = await askedSecond(email);
    // The code that proved the secret has been used.
    expect(code(await first.client.post('/api/session/second', { step: first.step, code: used }))).toBe('second-wrong');
    const next = codeAt(secret, Date.now() + 30_000);
    expect((await first.client.post('/api/session/second', { step: first.step, code: next })).status).toBe(200);
    expect((await first.client.get('/api/account')).status).toBe(200);
    expect(code(await first.client.post('/api/session/second', { step: first.step, code: next }))).toBe('second-ended');

    const guesses = await askedSecond(email);
    for (let n = 0; n < 5; n += 1)
      expect(code(await guesses.client.post('/api/session/second', { step: guesses.step, code: '000000' }))).toBe(
        'second-wrong',
      );
    expect(code(await guesses.client.post('/api/session/second', { step: guesses.step, code: next }))).toBe(
      'second-ended',
    );
  });

  it('is asked for only once it has proved to work, and within five minutes', async () => {
    const { client, email } = await joined('editor');
    await client.post('/api/account/codes', { name: 'Never finished', password: GOOD });
    expect((await (await again(email)).get('/api/account')).status).toBe(200);
    expect((await account(client)).factors).toEqual([]);

    const { recovery } = await withCodes(client);
    const late = await askedSecond(email);
    await house.server.deps.db.run(`update sign_in_step set expires_at = now() - interval '1 second'`);
    expect(code(await late.client.post('/api/session/second', { step: late.step, code: recovery[0] }))).toBe(
      'second-ended',
    );
  });

  it('is added by whoever began to, in what they began for that', async () => {
    const { client, email } = await joined('editor');
    const passkey = { id: 'x', rawId: 'x', type: 'public-key', response: { clientDataJSON: 'x' } };
    const adds = async (by: Client, step: string) =>
      code(await by.post('/api/account/passkeys', { step, name: 'Key', passkey }));
    const begun = await client.post<{ step: string }>('/api/account/passkeys/options', { password: GOOD });
    const { client: other } = await joined('editor');
    expect(await adds(other, begun.body.step)).toBe('second-ended');
    expect(await adds(client, begun.body.step), 'begun by them, and no answer of a key').toBe('passkey-wrong');
    await withCodes(client);
    const { step } = await askedSecond(email);
    expect(await adds(client, step)).toBe('second-ended');
  });

  it('that is a passkey lets in whoever holds it, here, for one challenge, and nobody else', async () => {
    const { client, email } = await joined('editor');
    const place = { name: new URL(house.owner.base).hostname, origin: house.owner.base };
    const added = async (by: Client, key: Authenticator, at = place) => {
      const { body } = await by.post<{ step: string; options: { challenge: string } }>(
        '/api/account/passkeys/options',
        { password: GOOD },
      );
      const passkey = key.register(body.options.challenge, at);
      return by.post('/api/account/passkeys', { step: body.step, name: 'Key', passkey });
    };
    const key = new Authenticator();
    expect(code(await added(client, key, { ...place, origin: 'https://elsewhere.example' }))).toBe('passkey-wrong');
    expect((await added(client, key)).status).toBe(201);
    const { client: neighbour } = await joined('editor');
    const theirs = new Authenticator();
    expect((await added(neighbour, theirs)).status).toBe(201);

    const by = async (one: Authenticator, at = place, of?: string) => {
      const stranger = house.client();
      await stranger.start();
      const { second } = (await stranger.post<Session>('/api/session', { email, password: GOOD })).body;
      const { challenge } = second?.passkey as { challenge: string };
      return stranger.post('/api/session/second', { step: second?.step, passkey: one.assert(of ?? challenge, at) });
    };
    expect((await by(key)).status).toBe(200);
    expect(code(await by(key, { ...place, origin: 'https://elsewhere.example' }))).toBe('second-wrong');
    expect(code(await by(key, { ...place, name: 'elsewhere.example' }))).toBe('second-wrong');
    expect(code(await by(key, place, 'Y2hhbGxlbmdlIG9mIGJlZm9yZQ'))).toBe('second-wrong');
    expect(code(await by(theirs))).toBe('second-wrong');
    // A key that says it was used less often than before is a copy (section 6.1.1).
    key.count = 0;
    expect(code(await by(key))).toBe('second-wrong');
    key.count = 100;
    expect((await by(key)).status).toBe(200);
  });

  it('guessed by the thousand, by whoever has the password, locks nobody out who has written codes down', async () => {
    const { client, email } = await joined('editor');
    const { recovery } = await withCodes(client);
    const id = await idOf(email);
    const { db } = house.server.deps;
    await db.run(
      `insert into sign_in_attempt (key, points, expire) values ('second:' || $1, 60, (extract(epoch from now()) * 1000 + 3600000)::bigint)`,
      [id],
    );
    const { client: other, step } = await askedSecond(email);
    expect(code(await other.post('/api/session/second', { step, code: '123456' }))).toBe('sign-in-throttled');
    expect((await other.post('/api/session/second', { step, code: recovery[0] })).status).toBe(200);
  });

  it('that was lost is replaced by what was written down, each once', async () => {
    const { client, email } = await joined('editor');
    const { recovery } = await withCodes(client);
    expect(recovery).toHaveLength(10);
    expect(new Set(recovery).size).toBe(10);
    const by = async (text: string) => {
      const { client: other, step } = await askedSecond(email);
      return other.post('/api/session/second', { step, code: text });
    };
    expect((await by(recovery[0]?.toUpperCase().replaceAll('-', ' ') ?? '')).status).toBe(200);
    expect(code(await by(recovery[0] ?? ''))).toBe('second-wrong');
    expect((await account(client)).recoveryCodes).toBe(9);
    const { client: neighbour } = await joined('editor');
    const theirs = await withCodes(neighbour);
    expect(code(await by(theirs.recovery[0] ?? '')), 'of somebody else').toBe('second-wrong');
    const fresh = await client.post<{ recoveryCodes: string[] }>('/api/account/recovery-codes', { password: GOOD });
    expect(code(await by(recovery[1] ?? ''))).toBe('second-wrong');
    expect((await by(fresh.body.recoveryCodes[1] ?? '')).status).toBe(200);
  });

  it('is removed by whoever knows the password, or by an owner for whoever has lost everything', async () => {
    const { client, email } = await joined('editor');
    await withCodes(client);
    const [{ id } = { id: '' }] = (await account(client)).factors;
    expect(code(await client.delete(`/api/account/factors/${id}`, { password: 'not this one' }))).toBe(
      'password-wrong',
    );
    const { client: neighbour } = await joined('editor');
    expect((await neighbour.delete(`/api/account/factors/${id}`, { password: GOOD })).status).toBe(404);
    for (const path of ['recovery-codes', 'passkeys/options', 'codes'])
      expect(code(await client.post(`/api/account/${path}`, { name: 'Key', password: 'not this one' })), path).toBe(
        'password-wrong',
      );
    expect((await client.delete(`/api/account/factors/${id}`, { password: GOOD })).status).toBe(200);
    expect((await account(client)).recoveryCodes).toBe(0);
    await again(email);
    await withCodes(client);
    expect((await house.owner.send('DELETE', `/api/people/${await idOf(email)}/factors`)).status).toBe(200);
    await again(email);
  });

  it('goes on being asked for after a new password by a link, so that the link alone lets nobody in', async () => {
    const { client, email } = await joined('editor');
    const { recovery } = await withCodes(client);
    const before = await askedSecond(email);
    const { body } = await house.owner.post<{ token: string }>(`/api/people/${await idOf(email)}/reset`);
    await client.post(`/api/reset/${body.token}`, { password: NEXT });
    const stranger = house.client();
    await stranger.start();
    // Who was half in by the password of before is not.
    expect(code(await before.client.post('/api/session/second', { step: before.step, code: recovery[0] }))).toBe(
      'second-ended',
    );
    expect((await stranger.post<Session>('/api/session', { email, password: NEXT })).body).toMatchObject({
      person: null,
      second: { hasCodes: true },
    });
  });

  it('is kept sealed, and its seal is changed with the others', async () => {
    const { client } = await joined('editor');
    const { secret } = await withCodes(client);
    const rows = await house.server.deps.db.many<{ secret: Buffer }>(
      'select secret from second_factor where secret is not null',
    );
    expect(rows.length).toBeGreaterThan(0);
    expect(rows.every((row) => !row.secret.includes(secret))).toBe(true);
  });
});
