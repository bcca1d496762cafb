/**
 * What strangers, and people who may not any more, try: each attack as it is made, over HTTP. Source of the list: a
 * review by OWASP's Application Security Verification Standard 5.
 */
import { hash } from '@node-rs/argon2';
import { execFile } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp, rm } from 'node:fs/promises';
import { request } from 'node:http';
import { connect, type Socket } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { openHouse, OWNER, SMALL_SITE, zip, type House } from './harness.ts';
import type { Client } from './client.ts';

let house: House;
let site: string;

beforeAll(async () => {
  house = await openHouse({ env: { FASTIGIUM_UPLOAD_IDLE_SECONDS: '5', FASTIGIUM_UPLOAD_WHOLE_SECONDS: '9' } });
  site = await house.owner.newSite('Strangers');
  await house.owner.bringIn(site, await zip(SMALL_SITE));
});
afterAll(() => house.stop());

interface Heard {
  readonly status: number;
  readonly headers: Record<string, string | string[] | undefined>;
  readonly body: string;
}
/** As no browser and no fetch would let one: with any header. */
const ask = (
  port: number,
  {
    method = 'GET',
    path = '/',
    headers = {},
    body = '',
  }: Partial<Record<'method' | 'path' | 'body', string>> & { headers?: Record<string, string> },
) =>
  new Promise<Heard>((resolve, reject) => {
    request({ host: '127.0.0.1', port, path, method, headers, agent: false }, (answer) => {
      let text = '';
      answer.on('data', (piece: Buffer) => (text += piece.toString()));
      answer.on('end', () => resolve({ status: answer.statusCode ?? 0, headers: answer.headers, body: text }));
    })
      .on('error', reject)
      .end(body);
  });

const joinAs = async (role: string, name: string): Promise<Client> => {
  const { body } = await house.owner.post<{ token: string }>('/api/invitations', { role });
  const client = house.client();
  await client.start();
  await client.post(`/api/join/${body.token}`, {
    name,
    email: `${name.replaceAll(' ', '.')}@house.example`,
    password: 'long enough for me',
  });
  return client;
};
const idOf = async (name: string) =>
  (await house.owner.get<{ members: { id: string; name: string }[] }>('/api/people')).body.members.find(
    (each) => each.name === name,
  )?.id ?? '';

describe('a name that was led here by its owner (DNS rebinding)', () => {
  it.each(['evil.example', 'evil.example:4300', 'localhost.evil.example', '127.0.0.1.evil.example', '0.0.0.0', '%20'])(
    'is not answered: %s',
    async (host) => {
      expect((await ask(house.server.port, { path: '/metrics', headers: { host } })).status).toBe(403);
      for (const path of ['/', '/api/session', '/api/openapi.json'])
        expect((await ask(house.server.port, { path, headers: { host } })).status).toBe(421);
    },
  );

  it('makes nobody the owner of a Fastigium that has none', async () => {
    const empty = await openHouse();
    try {
      await empty.server.deps.db.run('truncate person, team cascade');
      const { body } = await ask(empty.server.port, { path: '/api/session', headers: { host: 'localhost' } });
      const headers = {
        host: 'evil.example',
        'x-csrf-token': (JSON.parse(body) as { csrfToken: string }).csrfToken,
        'content-type': 'application/json',
      };
      const owner = JSON.stringify({ ...OWNER, email: 'stranger@evil.example' });
      const answer = await ask(empty.server.port, { method: 'POST', path: '/api/owner', headers, body: owner });
      expect([answer.status, JSON.parse(answer.body)]).toMatchObject([421, { error: { code: 'host-unknown' } }]);
      expect(await empty.server.deps.db.many('select 1 from person')).toEqual([]);
      // The same under its own name is what a first visit does.
      const own = await ask(empty.server.port, {
        method: 'POST',
        path: '/api/owner',
        headers: { ...headers, host: 'localhost' },
        body: owner,
      });
      expect(own.status).toBe(201);
    } finally {
      await empty.stop();
    }
  });

  it('is not told the demo’s sign-in, and neither is anybody who comes by a proxy', async () => {
    const demo = await openHouse({
      env: { FASTIGIUM_DEMO_FOLDER: new URL('../../../demo/lanternmoor', import.meta.url).pathname },
    });
    try {
      const told = async (headers: Record<string, string>) =>
        (JSON.parse((await ask(demo.server.port, { path: '/api/session', headers })).body) as { demo: unknown }).demo;
      expect(await told({ host: 'localhost' })).toMatchObject({ email: 'ines@lanternmoor.example' });
      expect(await told({ host: 'localhost', 'x-forwarded-for': '203.0.113.9' })).toBe(null);
      expect(await told({ host: 'localhost', via: '1.1 proxy' })).toBe(null);
    } finally {
      await demo.stop();
    }
  });
});

describe('somebody whose power has ended', () => {
  it('has made no owner by a link from before', async () => {
    const other = await joinAs('owner', 'Once an owner');
    const { body } = await other.post<{ token: string }>('/api/invitations', { role: 'owner' });
    await house.owner.put(`/api/people/${await idOf('Once an owner')}/role`, { role: 'editor' });
    const stranger = house.client();
    await stranger.start();
    expect((await stranger.get(`/api/join/${body.token}`)).status).toBe(410);
    expect(
      (
        await stranger.post(`/api/join/${body.token}`, {
          name: 'X',
          email: 'x@evil.example',
          password: 'long enough for me',
        })
      ).body,
    ).toMatchObject({ error: { code: 'invitation-ended' } });
    expect(JSON.stringify((await house.owner.get('/api/people')).body)).not.toContain('Once an owner"}');
  });

  it.each([
    [
      'is taken away',
      async () => house.owner.send('DELETE', `/api/people/${await idOf('Listener removed')}`),
      'removed',
    ],
    ['signs out', async (client: Client) => client.send('DELETE', '/api/session', {}), 'signed out'],
  ] as const)('hears nothing of a site any more: who %s', async (_, end, name) => {
    const client = await joinAs('editor', `Listener ${name}`);
    const stream = await fetch(`${client.base}/api/sites/${site}/events`, { headers: { cookie: client.cookie } });
    const reader = (stream.body as ReadableStream<Uint8Array>).getReader();
    expect(new TextDecoder().decode((await reader.read()).value)).toContain('retry');
    await end(client);
    // The server ends it: nothing is to be read from it but its end.
    let rest = '';
    for (;;) {
      const { value, done } = await reader.read();
      if (done) break;
      rest += new TextDecoder().decode(value);
    }
    expect(rest).not.toContain('data:');
    expect((await client.get(`/api/sites/${site}`)).status).toBe(401);
  });
});

describe('what is sent by nobody', () => {
  it('is not even read: who may not is told so before the body is looked at', async () => {
    const client = house.client();
    await client.start();
    const nested = '['.repeat(3_000_000);
    expect(
      (await client.send('POST', '/api/sites', Buffer.from(nested), { 'content-type': 'application/json' })).status,
    ).toBe(401);
    // And what strangers may send is small.
    const large = await client.post('/api/session', { email: 'a@house.example', password: 'x'.repeat(20_000) });
    expect([large.status, large.body]).toMatchObject([400, { error: { code: 'input-invalid' } }]);
  });

  it('leaves no session behind, however often', async () => {
    const sessions = () => house.server.deps.db.one<{ n: number }>('select count(*)::int as n from session');
    const before = await sessions();
    for (let n = 0; n < 20; n += 1) await house.client().start();
    const answer = await house.client().get('/api/session');
    expect(answer.headers.getSetCookie()).toEqual([]);
    expect(await sessions()).toEqual(before);
  });

  it('reckons no password’s hash where there is an owner already, or no such invitation', async () => {
    const client = house.client();
    await client.start();
    const person = { ...OWNER, email: 'once@evil.example' };
    /** Of all threads of this process, in which the server is. */
    const processorMs = async (work: () => Promise<unknown>) => {
      const before = process.cpuUsage();
      await work();
      const { user, system } = process.cpuUsage(before);
      return (user + system) / 1000;
    };
    const requests = 40;
    const refused = await processorMs(async () => {
      for (let n = 0; n < requests; n += 1) {
        expect((await client.post('/api/owner', person)).status).toBe(409);
        expect((await client.post(`/api/join/${'x'.repeat(32)}`, person)).status).toBe(410);
      }
    });
    const hashes = await processorMs(async () => {
      for (let n = 0; n < 2 * requests; n += 1) await hash(OWNER.password, { memoryCost: 19 * 1024, timeCost: 2 });
    });
    expect(refused / hashes).toBeLessThan(0.75);
  });
});

describe('a stranger who guesses', () => {
  it('locks nobody out: the right person comes in from elsewhere at once', async () => {
    const proxied = await openHouse({ env: { FASTIGIUM_TRUST_PROXY: '1' } });
    try {
      const { body } = await ask(proxied.server.port, { path: '/api/session', headers: { host: 'localhost' } });
      const token = (JSON.parse(body) as { csrfToken: string }).csrfToken;
      const signIn = async (from: string, password: string) =>
        ask(proxied.server.port, {
          method: 'POST',
          path: '/api/session',
          headers: {
            host: 'localhost',
            'x-csrf-token': token,
            'x-forwarded-for': from,
            'content-type': 'application/json',
          },
          body: JSON.stringify({ email: OWNER.email, password }),
        });
      const guessed = [];
      for (let n = 0; n < 15; n += 1) guessed.push((await signIn('203.0.113.9', `guess ${n}`)).status);
      expect(guessed).toEqual([...Array<number>(10).fill(401), ...Array<number>(5).fill(429)]);
      // Whoever has many addresses of one network is one.
      const many = [];
      for (let n = 0; n < 12; n += 1) many.push((await signIn(`2001:db8:7:7::${n + 1}`, `guess ${n}`)).status);
      expect(many.slice(10)).toEqual([429, 429]);
      expect((await signIn('198.51.100.7', OWNER.password)).status).toBe(200);
    } finally {
      await proxied.stop();
    }
  });
});

describe('a page whose session has ended', () => {
  it('is told to sign in, and not that its request came from elsewhere', async () => {
    const client = await joinAs('editor', 'Left open');
    await house.server.deps.db.run(`update session set idle_until = now() - interval '1 minute' where person_id = $1`, [
      await idOf('Left open'),
    ]);
    const { version } = await house.owner.overview(site);
    const answer = await client.post(`/api/sites/${site}/decisions`, {
      version,
      decision: { kind: 'redirect', from: '/a', to: { status: 410 } },
    });
    expect([answer.status, answer.body]).toMatchObject([401, { error: { code: 'sign-in-required' } }]);
  });

  it('ended for good after its whole time, however much it was used', async () => {
    const client = await joinAs('editor', 'Always here');
    expect((await client.get('/api/sites')).status).toBe(200);
    await house.server.deps.db.run(`update session set ends_at = now() - interval '1 second' where person_id = $1`, [
      await idOf('Always here'),
    ]);
    expect((await client.get('/api/sites')).status).toBe(401);
  });

  it('and a request that another site made is refused, whatever token it has', async () => {
    const answer = await house.owner.post('/api/sites', { name: 'Forged' }, { 'sec-fetch-site': 'cross-site' });
    expect([answer.status, answer.body]).toMatchObject([403, { error: { code: 'request-forged' } }]);
  });
});

describe('slow uploads', () => {
  const begun: Socket[] = [];
  /** Sends the head of an upload and a first byte, and then nothing. */
  async function begin(client: Client, to = 'imports?fileName=slow.zip'): Promise<Socket> {
    const { port } = new URL(client.base);
    const socket = connect(Number(port), '127.0.0.1');
    begun.push(socket);
    await once(socket, 'connect');
    socket.write(
      `POST /api/sites/${site}/${to} HTTP/1.1\r\nhost: localhost\r\ncookie: ${client.cookie}\r\nx-csrf-token: ${client.csrf}\r\ncontent-type: application/zip\r\ncontent-length: 1000000\r\n\r\nP`,
    );
    return socket;
  }
  afterEach(async () => {
    for (const socket of begun.splice(0)) socket.destroy();
    await untilUnderWay(0);
  });
  const untilUnderWay = (count: number) =>
    expect
      .poll(
        async () => /^fastigium_uploads (\d+)$/m.exec((await ask(house.server.port, { path: '/metrics' })).body)?.[1],
      )
      .toBe(`${count}`);
  const heard = async (socket: Socket) => {
    let text = '';
    socket.on('data', (piece: Buffer) => (text += piece.toString()));
    await once(socket, 'close');
    return text;
  };

  it('hold no connection of the database: thirteen and more, and everybody else is answered', async () => {
    const people = [house.owner];
    for (let n = 0; n < 4; n += 1) people.push(await joinAs('editor', `Slow ${n}`));
    const sockets = (await Promise.all(people.flatMap((person) => [begin(person), begin(person), begin(person)]))).map(
      (socket) => ({ socket, answer: heard(socket) }),
    );
    await untilUnderWay(sockets.length);
    // While all stand still: what an upload held it would hold until it is ended.
    const { pool } = house.server.deps.db;
    await expect.poll(() => pool.totalCount - pool.idleCount, { timeout: 1500, interval: 20 }).toBe(0);
    expect((await house.owner.get('/api/sites')).status).toBe(200);
    // A fourth one of the same person is one too many.
    const fourth = await house.owner.send('POST', `/api/sites/${site}/imports?fileName=x.zip`, await zip(SMALL_SITE));
    expect([fourth.status, fourth.body]).toMatchObject([429, { error: { code: 'uploads-many' } }]);
    // Those that stand still are ended, with words.
    for (const { answer } of sockets) {
      const text = await answer;
      expect(text).toMatch(/^HTTP\/1\.1 408 /);
      expect(text).toContain('upload-slow');
    }
    expect(await house.server.deps.db.many(`select 1 from import where file_name = 'slow.zip'`)).toEqual([]);
    expect((await house.owner.bringIn(site, await zip(SMALL_SITE), 'after.zip')).state).toBe('done');
  });

  it('hold no worker thread either: with three slow logs under way, a site comes in', async () => {
    const other = await joinAs('editor', 'Beside slow logs');
    const sockets = await Promise.all(
      [1, 2, 3].map((n) => begin(house.owner, `old-addresses/file?fileName=slow-${n}.log`)),
    );
    const answers = sockets.map(heard);
    await untilUnderWay(sockets.length);
    expect((await other.bringIn(site, await zip(SMALL_SITE), 'beside.zip')).state).toBe('done');
    for (const answer of answers) expect(await answer).toContain('upload-slow');
  });

  it('that meet a full disk are told so, and nothing is kept', async () => {
    const small = await mkdtemp(join(tmpdir(), 'fastigium-small-'));
    await promisify(execFile)('mount', ['-t', 'tmpfs', '-o', 'size=1m', 'tmpfs', small]);
    const before = process.env.TMPDIR;
    process.env.TMPDIR = small;
    try {
      const answer = await house.owner.send(
        'POST',
        `/api/sites/${site}/imports?fileName=slow.zip`,
        Buffer.alloc(3_000_000),
      );
      expect([answer.status, answer.body]).toMatchObject([507, { error: { code: 'upload-no-room' } }]);
    } finally {
      if (before === undefined) delete process.env.TMPDIR;
      else process.env.TMPDIR = before;
      await promisify(execFile)('umount', [small]);
      await rm(small, { recursive: true });
    }
    expect(await house.server.deps.db.many(`select 1 from import where file_name = 'slow.zip'`)).toEqual([]);
  });

  it('that go on for ever, a byte now and then, are ended as well', async () => {
    const socket = await begin(house.owner);
    const drip = setInterval(() => socket.write('K'), 500);
    const text = await heard(socket);
    clearInterval(drip);
    expect(text).toContain('upload-slow');
  });

  it('that break off leave nothing', async () => {
    const socket = await begin(house.owner);
    await untilUnderWay(1);
    socket.destroy();
    await untilUnderWay(0);
    expect(await house.server.deps.db.many(`select 1 from import where file_name = 'slow.zip'`)).toEqual([]);
  });
});

describe('behind TLS', () => {
  it('the cookie is one that nothing else can set, and browsers are told to stay with it', async () => {
    const secure = await openHouse({
      env: {
        FASTIGIUM_PUBLIC_URL: 'https://fastigium.example',
        FASTIGIUM_PREVIEW_URL: 'https://*.previews.example',
        FASTIGIUM_TRUST_PROXY: '1',
        FASTIGIUM_ALSO_ANSWERS: '127.0.0.1',
      },
    });
    try {
      const headers = { host: 'fastigium.example', 'x-forwarded-proto': 'https', 'x-forwarded-for': '203.0.113.9' };
      const first = await ask(secure.server.port, { path: '/api/session', headers });
      const { csrfToken } = JSON.parse(first.body) as { csrfToken: string };
      const answer = await ask(secure.server.port, {
        method: 'POST',
        path: '/api/session',
        headers: { ...headers, 'x-csrf-token': csrfToken, 'content-type': 'application/json' },
        body: JSON.stringify({ email: OWNER.email, password: OWNER.password }),
      });
      // RFC 6265bis, section 4.1.3.2: Secure, the whole host, and no Domain.
      expect(answer.headers['set-cookie']?.[0]).toMatch(
        /^__Host-fastigium=[^;]+; Path=\/; Expires=[^;]+; HttpOnly; Secure; SameSite=Strict$/,
      );
      expect(answer.headers['strict-transport-security']).toMatch(/^max-age=\d{8}$/);
      expect(String(answer.headers['content-security-policy'])).toContain('frame-src https://*.previews.example;');
      expect((await ask(secure.server.port, { path: '/api/session', headers: { host: 'localhost' } })).status).toBe(
        421,
      );
    } finally {
      await secure.stop();
    }
  });

  it('nothing may frame the application, by either header', async () => {
    const { headers } = await ask(house.server.port, { path: '/api/session', headers: { host: 'localhost' } });
    expect(headers['x-frame-options']).toBe('DENY');
    expect(String(headers['content-security-policy'])).toContain("frame-ancestors 'none'");
    expect(headers['strict-transport-security']).toBe(undefined);
  });
});
