/** What is asked of the server while the session has ended: asked again once somebody is back, and only then. */
import { sitesApi } from '@fastigium/contracts/api/sites';
import { DomainError } from '@fastigium/contracts/errors';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { call, setCsrfToken, askWhenSignedOut } from './client.ts';

const json = (status: number, body: unknown) => new Response(JSON.stringify(body), { status });
const refused = (code: 'sign-in-required' | 'name-taken') =>
  json(code === 'sign-in-required' ? 401 : 409, { error: { code, message: 'in English', details: {} } });
const site = {
  id: '00000000-0000-4000-8000-000000000001',
  name: 'A',
  hostName: 'a',
  hasHost: true,
  liveUrl: null,
  answersAt: null,
  pages: 0,
  files: 0,
  liveRelease: null,
  createdAt: '2026-11-29T00:00:00.000Z',
};

afterEach(() => {
  vi.unstubAllGlobals();
  askWhenSignedOut(() => Promise.resolve(false));
});

/** Answers one after another; what was sent is kept. */
function answering(...answers: Response[]) {
  const sent: { body: unknown; token: unknown }[] = [];
  vi.stubGlobal('fetch', (_url: string, { body, headers }: { body?: string; headers: Record<string, string> }) => {
    sent.push({ body, token: headers['x-csrf-token'] });
    const next = answers.shift();
    return next ? Promise.resolve(next) : Promise.reject(new Error('asked too often'));
  });
  return sent;
}

describe('a call whose session has ended', () => {
  it('is made again when the same person is back, with what was typed and the token of now', async () => {
    const sent = answering(refused('sign-in-required'), json(201, site));
    setCsrfToken('before');
    askWhenSignedOut(() => {
      setCsrfToken('after');
      return Promise.resolve(true);
    });
    expect(await call(sitesApi.create, { body: { name: 'A' } })).toMatchObject({ name: 'A' });
    expect(sent).toEqual([
      { body: '{"name":"A"}', token: 'before' },
      { body: '{"name":"A"}', token: 'after' },
    ]);
  });

  it('fails in words where nobody signs in, and is not asked about twice', async () => {
    const sent = answering(refused('sign-in-required'));
    await expect(call(sitesApi.create, { body: { name: 'A' } })).rejects.toMatchObject({ code: 'sign-in-required' });
    expect(sent).toHaveLength(1);
    answering(refused('sign-in-required'), refused('sign-in-required'));
    askWhenSignedOut(() => Promise.resolve(true));
    await expect(call(sitesApi.create, { body: { name: 'A' } })).rejects.toBeInstanceOf(DomainError);
  });

  it('is the only kind that anybody is asked about', async () => {
    answering(refused('name-taken'));
    const ask = vi.fn(() => Promise.resolve(true));
    askWhenSignedOut(ask);
    await expect(call(sitesApi.create, { body: { name: 'A' } })).rejects.toMatchObject({ code: 'name-taken' });
    expect(ask).not.toHaveBeenCalled();
  });
});
