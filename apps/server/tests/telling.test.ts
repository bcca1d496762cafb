/** Webhooks: signed, retried by the world's clock, with a log. The receiver is a server of the test's own. */
import { speak } from '../src/words.ts';
import { createServer, type IncomingHttpHeaders, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { execFileSync } from 'node:child_process';
import { told, type Hook, type Told } from '@fastigium/contracts/api/telling';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { probeNow } from '../src/features/watch/probe.ts';
import { MOST_ATTEMPTS } from '../src/features/telling/deliver.ts';
import { letBe, openHouse, SMALL_SITE, zip, type House } from './harness.ts';

interface Received {
  readonly headers: IncomingHttpHeaders;
  readonly body: string;
}

let house: House;
let receiver: Server;
let site: string;
const received: Received[] = [];
let answer = 204;
let url: string;
const MINUTE_MS = 60_000;

beforeAll(async () => {
  receiver = createServer((req, res) => {
    const pieces: Buffer[] = [];
    req
      .on('data', (piece: Buffer) => pieces.push(piece))
      .on('end', () => {
        received.push({ headers: req.headers, body: Buffer.concat(pieces).toString() });
        res.writeHead(answer).end();
      });
  });
  await new Promise<void>((resolve) => {
    receiver.listen(0, '127.0.0.1', resolve);
  });
  url = `http://127.0.0.1:${(receiver.address() as AddressInfo).port}/told`;
  house = await openHouse({ env: { FASTIGIUM_OPEN_NETWORKS: '127.0.0.1/32' } });
  site = await house.owner.newSite('Moor');
  await house.owner.bringIn(site, await zip(SMALL_SITE));
  await letBe(house, site);
});
afterAll(async () => {
  await house.stop();
  receiver.close();
});
beforeEach(() => {
  received.length = 0;
  answer = 204;
});

const hooks = async () => (await house.owner.get<{ hooks: Hook[] }>(`/api/sites/${site}/hooks`)).body.hooks;
const add = async (events: string[], to = url) =>
  house.owner.post<{ hook: Hook; secret: string; error?: { code: string } }>(`/api/sites/${site}/hooks`, {
    url: to,
    events,
  });
const remove = (hook: string) =>
  fetch(`${house.owner.base}/api/sites/${site}/hooks/${hook}`, {
    method: 'DELETE',
    headers: { cookie: house.owner.cookie, 'x-csrf-token': house.owner.csrf },
  });
const runOn = (minutes: number) => house.owner.post('/api/stand-ins/clock', { byMs: minutes * MINUTE_MS });
const until = async (holds: () => boolean | Promise<boolean>) => {
  for (let tries = 0; tries < 200; tries += 1) {
    if (await holds()) return;
    await new Promise((resolve) => {
      setTimeout(resolve, 50);
    });
  }
  throw new Error('it never came to pass');
};

describe('a webhook', () => {
  let hook: Hook;
  let secret: string;
  beforeAll(async () => {
    const { body } = await add(['release-live', 'release-failed', 'away', 'back']);
    [hook, secret] = [body.hook, body.secret];
  });

  it('is told of a release with the pages that are new, changed and gone, signed so that openssl reckons the same', async () => {
    await house.owner.publish(site);
    await until(() => received.length === 1);
    const [first] = received;
    const body: Told = told.parse(JSON.parse(first?.body ?? ''));
    expect(body).toMatchObject({
      event: 'release-live',
      site: { name: 'Moor' },
      release: { number: 1, by: 'Ada Stone' },
      words: 'Release 1 is live, published by Ada Stone.',
    });
    expect(body.pages?.new.sort()).toEqual(['/', '/404.html', '/visit/', '/welcome/']);
    // A second implementation of HMAC-SHA-256 (RFC 2104): OpenSSL's.
    const theirs = execFileSync('openssl', ['dgst', '-sha256', '-hmac', secret, '-r'], { input: first?.body ?? '' })
      .toString()
      .split(' ')[0];
    expect(first?.headers['x-hub-signature']).toBe(`sha256=${theirs ?? ''}`);
    await until(async () => (await hooks())[0]?.deliveries[0]?.state === 'arrived');
  });

  it('that refuses is told again after a minute, then after four, with the same words and the same id', async () => {
    answer = 503;
    await house.owner.post(`/api/sites/${site}/hooks/${hook.id}/try`);
    await until(async () => speak((await hooks())[0]?.deliveries[0]?.problem ?? '') === 'it answers 503');
    expect(received).toHaveLength(1);
    await runOn(1.1);
    await until(() => received.length === 2);
    await until(async () => (await hooks())[0]?.deliveries[0]?.attempts === 2);
    await runOn(1.1);
    await house.server.schedules.telling.ranAgain();
    expect(received).toHaveLength(2);
    answer = 200;
    await runOn(3.5);
    await until(() => received.length === 3);
    expect(new Set(received.map(({ body }) => body)).size).toBe(1);
    expect(new Set(received.map(({ headers }) => headers['delivery-id'])).size).toBe(1);
    await until(async () => (await hooks())[0]?.deliveries[0]?.state === 'arrived');
    expect((await hooks())[0]?.deliveries[0]).toMatchObject({ attempts: 3, status: 200, problem: null, event: 'try' });
  });

  it('that never answers is given up, and says so', async () => {
    answer = 500;
    await house.owner.post(`/api/sites/${site}/hooks/${hook.id}/try`);
    for (let n = 1; n <= MOST_ATTEMPTS; n += 1) {
      await until(async () => {
        const last = (await hooks())[0]?.deliveries[0];
        return last?.attempts === n && (last.state === 'given-up' || last.problem !== null);
      });
      await until(() => received.length === n);
      await runOn(25 * 60);
    }
    await until(async () => (await hooks())[0]?.deliveries[0]?.state === 'given-up');
    expect((await hooks())[0]?.deliveries[0]).toMatchObject({ attempts: MOST_ATTEMPTS, nextAt: null });
  });

  it('is told when the site is away and when it is back, once each', async () => {
    await house.server.deps.db.run(`update watched_log set next_probe_at = 'infinity'`);
    await house.server.deps.db.run('delete from probe');
    const probe = async () => {
      await probeNow(house.server.deps, site);
      await runOn(5);
    };
    await probe();
    const { ports } = house.world;
    await house.host.stop();
    await probe();
    await probe();
    await house.restartHost();
    expect(house.world.ports.live).toBe(ports.live);
    await probe();
    await until(() => received.length === 2);
    expect(received.map(({ body }) => (JSON.parse(body) as Told).event).sort()).toEqual(['away', 'back']);
  });

  it('of other things is not told, and removed it is told no more', async () => {
    await remove(hook.id);
    expect(await hooks()).toEqual([]);
    expect((await add(['found-otherwise'])).status).toBe(201);
    await house.owner.decide(site, {
      kind: 'title',
      page: (await house.owner.page(site, '/visit/')).id,
      title: 'Come',
    });
    await letBe(house, site);
    await house.owner.publish(site);
    await house.server.schedules.telling.ranAgain();
    expect(received).toEqual([]);
  });
});

describe('refused', () => {
  it('twice the same, no address, nothing to tell, and whoever is no owner', async () => {
    expect((await add(['release-live'])).body.error?.code).toBe('hook-there');
    expect((await add(['release-live'], 'ftp://e.example/')).body.error?.code).toBe('input-invalid');
    expect((await add([], `${url}/other`)).body.error?.code).toBe('input-invalid');
  });

  it('a private network is not asked, whatever is typed: the telling waits and says why', async () => {
    const { body } = await add(['release-live'], 'http://10.0.0.7/told');
    await house.owner.post(`/api/sites/${site}/hooks/${body.hook.id}/try`);
    await until(async () => (await hooks()).find(({ id }) => id === body.hook.id)?.deliveries[0]?.problem != null);
    expect((await hooks()).find(({ id }) => id === body.hook.id)?.deliveries[0]).toMatchObject({
      state: 'waiting',
      status: null,
      problem: { code: 'answer.private-network' },
    });
  });
});

describe('a search index and an account, the stand-ins', () => {
  const offeredOf = async () =>
    (await house.owner.get<{ offered: { index: string; account: { url: string } } }>(`/api/sites/${site}/hooks`)).body
      .offered;
  const asked = async (name: string, path: string) =>
    (await house.server.deps.world.fetch(
      new URL(path, `http://${name}`),
      { bytes: 1_000_000, withinMs: 5000 },
      new AbortController().signal,
    )) as { ok: true; body: Buffer };
  const listed = async () =>
    [
      ...(
        await asked(
          'index.search.test',
          `/search?q=site:${encodeURIComponent(`moor.localhost:${house.world.ports.live}`)}`,
        )
      ).body
        .toString()
        .matchAll(/<id>([^<]*moor\.localhost[^<]*)<\/id>/g),
    ]
      .map(([, id]) => new URL(id ?? '').pathname)
      .filter((path) => path !== '/search');
  const last = async (kind: string) => (await hooks()).find((each) => each.kind === kind)?.deliveries[0];

  it('the index believes the key that went out with the release, and lists what is new and not what is gone', async () => {
    const { index } = await offeredOf();
    expect((await house.owner.post(`/api/sites/${site}/hooks`, { kind: 'index', url: index })).status).toBe(201);
    await house.owner.decide(site, {
      kind: 'title',
      page: (await house.owner.page(site, '/visit/')).id,
      title: 'See us',
    });
    await house.owner.decide(site, {
      kind: 'rename',
      page: (await house.owner.page(site, '/welcome/')).id,
      address: '/start/',
    });
    await house.owner.publish(site);
    await until(async () => (await last('index'))?.state === 'arrived');
    expect(await listed()).toEqual(expect.arrayContaining(['/start/', '/visit/']));
    expect(await listed()).not.toContain('/welcome/');
  });

  it('the account gets what somebody sent, drafted from the release, and nothing by itself', async () => {
    const { account } = await offeredOf();
    expect(account).not.toHaveProperty('token');
    // Another one has no token here.
    expect(
      (await house.owner.post(`/api/sites/${site}/hooks`, { kind: 'account', url: `${account.url}/other` })).status,
    ).toBe(400);
    const { body } = await house.owner.post<{ hook: Hook; secret: null }>(`/api/sites/${site}/hooks`, {
      kind: 'account',
      ...account,
    });
    expect(body.secret).toBeNull();
    const draft = (await house.owner.get<{ text: string }>(`/api/sites/${site}/message`)).body.text;
    expect(draft).toMatch(/^Brought up to date at Moor: .*See us.*\. http:\/\/moor\.localhost/);
    await house.owner.post(`/api/sites/${site}/hooks/${body.hook.id}/message`, { text: draft });
    await until(async () => (await last('account'))?.state === 'arrived');
    const { posts } = JSON.parse((await asked('posts.social.test', '/')).body.toString()) as {
      posts: { text: string }[];
    };
    expect(posts.map(({ text }) => text)).toEqual([draft]);
  });

  it('an account with a wrong token says so', async () => {
    const { account } = await offeredOf();
    await remove((await hooks()).find(({ kind }) => kind === 'account')?.id ?? '');
    const { body } = await house.owner.post<{ hook: Hook }>(`/api/sites/${site}/hooks`, {
      kind: 'account',
      url: account.url,
      token: 'another',
    });
    await house.owner.post(`/api/sites/${site}/hooks/${body.hook.id}/message`, { text: 'Hello' });
    await until(async () => ((await last('account'))?.attempts ?? 0) > 0 && (await last('account'))?.problem !== null);
    expect(await last('account')).toMatchObject({
      state: 'waiting',
      problem: { code: 'reason.answers-status', parameters: { status: 401 } },
    });
  });
});
