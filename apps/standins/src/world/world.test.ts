/**
 * The stand-ins, asked as anyone would ask: RDAP (RFC 9083), ACME's rules against replay and forgery
 * (RFC 8555 section 6), resolvers' habits by the world clock, and packets that are no DNS.
 */
import { createHash, createSign, generateKeyPairSync, randomBytes, type KeyObject } from 'node:crypto';
import { createSocket } from 'node:dgram';
import { mkdtempSync, rmSync } from 'node:fs';
import { request } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ask, encodeUpdate, sign } from '@fastigium/wire';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { worldSeed } from '../registrar/registry.ts';
import { HABITS } from '../resolvers/habits.ts';
import { worldFaults } from './faults.ts';
import { NO_PORTS, startWorld, type World } from './world.ts';

const TOKEN = 'token-of-the-test-host';
const folder = mkdtempSync(join(tmpdir(), 'fastigium-world-'));
const SOA = '@ SOA ns1.registrar.test. hostmaster.registrar.test. 1 7200 900 1209600 300\n@ NS ns1.registrar.test.\n';
let world: World;
const seed = worldSeed.parse({
  holdings: [
    {
      name: 'quay.example',
      heldBy: 'account',
      registeredYearsAgo: 2,
      yearsLeft: 1,
      zone: `$TTL 600\n${SOA}@ A 203.0.113.9\nwww CNAME quay.example.\nshort 5 A 203.0.113.10\nlong 90000 A 203.0.113.11\n*.wild A 203.0.113.12\n`,
    },
    { name: 'xn--bcher-kva.example', heldBy: 'elsewhere', registeredYearsAgo: 2, yearsLeft: 1 },
  ],
});
const start = () => startWorld({ folder, token: TOKEN, ports: NO_PORTS, seed });

beforeAll(async () => {
  world = await start();
});
beforeEach(() => world.faults.set(worldFaults.parse({})));
afterAll(async () => {
  await world.stop();
  rmSync(folder, { recursive: true, force: true });
});

describe('the registrar', () => {
  const at = (path: string) => `http://127.0.0.1:${world.ports.registrar}${path}`;
  const authorised = { authorization: `Bearer ${TOKEN}`, 'content-type': 'application/json' };
  const send = async (method: string, path: string, body?: object, headers: Record<string, string> = authorised) => {
    const answer = await fetch(at(path), { method, headers, ...(body ? { body: JSON.stringify(body) } : {}) });
    return {
      status: answer.status,
      body: (await answer.json()) as Record<string, unknown>,
      type: answer.headers.get('content-type'),
    };
  };

  it('answers for a held name as RFC 9083 section 5.3 has it, in its media type (section 4.2)', async () => {
    const { status, body, type } = await send('GET', '/rdap/domain/quay.example');
    expect([status, type?.split(';')[0]]).toEqual([200, 'application/rdap+json']);
    expect(body).toMatchObject({
      objectClassName: 'domain',
      ldhName: 'quay.example',
      rdapConformance: ['rdap_level_0'],
      nameservers: [{ objectClassName: 'nameserver', ldhName: 'ns1.registrar.test' }, {}],
    });
    const events = body.events as { eventAction: string; eventDate: string }[];
    expect(events.map(({ eventAction }) => eventAction)).toEqual(['registration', 'expiration']);
    for (const { eventDate } of events) expect(Number.isNaN(Date.parse(eventDate))).toBe(false);
  });

  it('says 404 of a free name and 400 of what is none (section 5 and 6); an international one in both forms', async () => {
    expect(await send('GET', '/rdap/domain/free.example')).toMatchObject({ status: 404, body: { errorCode: 404 } });
    expect(await send('GET', '/rdap/domain/-no-.example')).toMatchObject({ status: 400, body: { errorCode: 400 } });
    expect((await send('GET', '/rdap/domain/xn--bcher-kva.example')).body).toMatchObject({
      ldhName: 'xn--bcher-kva.example',
      unicodeName: 'b\u00fccher.example',
    });
  });

  it('sells a free name once, under its own endings, to the account alone', async () => {
    const order = { name: 'new-quay.example', years: 2, privacy: true };
    expect((await send('POST', '/orders', order, { 'content-type': 'application/json' })).status).toBe(401);
    expect(await send('POST', '/orders', order)).toMatchObject({ status: 201, body: { name: 'new-quay.example' } });
    expect((await send('POST', '/orders', order)).status).toBe(409);
    expect((await send('POST', '/orders', { ...order, name: 'quay.nowhere' })).status).toBe(422);
    expect((await send('POST', '/orders', { ...order, years: 11 })).status).toBe(400);
    expect((await send('GET', '/zones/xn--bcher-kva.example')).status).toBe(404);
  });

  it('takes a zone over only whole and right, and counts its serial up', async () => {
    const zone = (await send('GET', '/zones/quay.example')).body.text as string;
    const put = (text: string) => send('PUT', '/zones/quay.example', { text });
    const serial = () =>
      Number(
        world.registry
          .find('quay.example')
          ?.records.find(({ type }) => type === 'SOA')
          ?.data.split(' ')[2],
      );
    const before = serial();
    for (const [wrong, reason] of [
      [`${zone}@ CNAME other.test.\n`, 'beside cname'],
      [zone.replace(/.*NS .*\n/, ''), 'SOA and NS'],
      [`${zone}other.test. A 192.0.2.1\n`, 'outside zone'],
      [`${zone}x A 1.2.3\n`, 'no ipv4, 1.2.3'],
    ] as const) {
      const refused = await put(wrong);
      expect([refused.status, String(refused.body.error)]).toEqual([422, expect.stringContaining(reason)]);
    }
    expect(serial()).toBe(before);
    expect((await put(`${zone}added A 192.0.2.1\n`)).status).toBe(200);
    expect(serial()).toBe(before + 1);
  });
});

describe('the resolvers', () => {
  const resolver = (id: string) => ({
    address: `127.0.0.${11 + HABITS.findIndex((habit) => habit.id === id)}`,
    port: world.ports.dns,
  });
  const ttlOf = async (id: string, name: string, type = 'A') => {
    const { answers, authorities } = await ask(resolver(id), { name, type }, { recursion: true, withinMs: 3000 });
    return (answers[0] ?? authorities[0])?.ttlSeconds ?? -1;
  };

  it('hand on what is left of an answer’s time, and count it down by the world clock', async () => {
    const first = await ttlOf('campus', 'quay.example');
    expect(first).toBeGreaterThan(550);
    await world.clock.runOn(120_000);
    expect(first - (await ttlOf('campus', 'quay.example'))).toBeGreaterThanOrEqual(119);
    await world.clock.runOn(600_000);
    // Run out: asked again of the authority, whole.
    expect(await ttlOf('campus', 'quay.example')).toBe(600);
  });

  it('one keeps at least half an hour, one at most six, one is slow', async () => {
    await world.clock.runOn(86_400_000);
    expect(await ttlOf('office', 'short.quay.example')).toBeGreaterThan(1790);
    expect(await ttlOf('public', 'long.quay.example')).toBeLessThanOrEqual(21_600);
    const started = performance.now();
    await ttlOf('mobile', 'quay.example');
    expect(performance.now() - started).toBeGreaterThan(300);
  });

  it('keep "there is none" for the zone’s negative time, and follow CNAMEs', async () => {
    expect(await ttlOf('home', 'nothing.quay.example')).toBeLessThanOrEqual(300);
    const { answers } = await ask(
      resolver('home'),
      { name: 'www.quay.example', type: 'A' },
      { recursion: true, withinMs: 3000 },
    );
    expect(answers.map(({ type, data }) => `${type} ${data}`)).toEqual(['CNAME quay.example.', 'A 203.0.113.9']);
  });

  it('fail as they are told to', async () => {
    world.faults.set(worldFaults.parse({ resolvers: { home: 'refuses', public: 'lies' } }));
    expect(
      (await ask(resolver('home'), { name: 'quay.example', type: 'A' }, { recursion: true, withinMs: 2000 })).rcode,
    ).toBe('REFUSED');
    expect(
      (await ask(resolver('public'), { name: 'quay.example', type: 'A' }, { recursion: true, withinMs: 2000 }))
        .answers[0]?.data,
    ).toBe('192.0.2.66');
  });

  it('say SERVFAIL when no authority answers', async () => {
    world.faults.set(worldFaults.parse({ nameServers: ['refuses', 'refuses'] }));
    expect(
      (await ask(resolver('home'), { name: 'unasked.quay.example', type: 'A' }, { recursion: true, withinMs: 3000 }))
        .rcode,
    ).toBe('SERVFAIL');
  });
});

describe('name servers and resolvers', () => {
  it('outlive packets that are no DNS, and updates cut short', async () => {
    const socket = createSocket('udp4');
    const targets = ['127.0.0.1', '127.0.0.2', '127.0.0.11'];
    const update = sign(
      encodeUpdate({ id: 7, zone: 'quay.example', steps: [{ kind: 'delete-set', name: 'quay.example', type: 'A' }] }),
      { name: 'update.quay.example', algorithm: 'hmac-sha256', secret: randomBytes(32) },
      0,
    ).bytes;
    const send = (bytes: Buffer, address: string) =>
      new Promise<void>((resolve) => socket.send(bytes, world.ports.dns, address, () => resolve()));
    for (let n = 0; n < 300; n += 1) {
      const noise = n % 3 === 0 ? update.subarray(0, 1 + (n % update.length)) : randomBytes(1 + (n % 90));
      for (const address of targets) await send(noise, address);
    }
    socket.close();
    // A flood fills the kernel's buffer and packets are lost; whoever asks asks again (RFC 1035 section 4.2.1).
    const patiently = async (address: string, tries: number): Promise<string | undefined> => {
      const question = ask(
        { address, port: world.ports.dns },
        { name: 'quay.example', type: 'A' },
        { recursion: true, withinMs: 1000 },
      );
      return question.then(
        ({ answers }) => answers[0]?.data,
        (error: unknown) => {
          if (tries === 0) throw error;
          return patiently(address, tries - 1);
        },
      );
    };
    for (const address of targets) expect(await patiently(address, 3)).toBe('203.0.113.9');
    expect(
      world.registry.find('quay.example')?.records.some(({ name, type }) => name === 'quay.example' && type === 'A'),
    ).toBe(true);
  });
});

describe('the certificate authority', () => {
  const { privateKey, publicKey } = generateKeyPairSync('ec', { namedCurve: 'P-256' });
  const jwk = publicKey.export({ format: 'jwk' });
  const base = () => (world.environment.FASTIGIUM_ACME_DIRECTORY ?? '').replace('/directory', '');
  const b64 = (value: object | string) =>
    Buffer.from(typeof value === 'string' ? value : JSON.stringify(value)).toString('base64url');

  function http(
    method: string,
    url: string,
    body?: string,
  ): Promise<{ status: number; headers: Record<string, string | undefined>; body: { type?: string } }> {
    return new Promise((resolve, reject) => {
      request(
        url,
        { method, ca: world.rootPem, headers: body === undefined ? {} : { 'content-type': 'application/jose+json' } },
        (answer) => {
          let text = '';
          answer.on('data', (piece: Buffer) => (text += piece.toString()));
          answer.on('end', () =>
            resolve({
              status: answer.statusCode ?? 0,
              headers: answer.headers as Record<string, string | undefined>,
              body: text === '' ? {} : (JSON.parse(text) as { type?: string }),
            }),
          );
        },
      )
        .on('error', reject)
        .end(body);
    });
  }
  const nonce = async () => (await http('HEAD', `${base()}/new-nonce`)).headers['replay-nonce'] ?? '';

  async function post(
    path: string,
    payload: object | '',
    more: { nonce?: string; url?: string; kid?: string; key?: KeyObject } = {},
  ) {
    const url = `${base()}${path}`;
    const head = b64({
      alg: 'ES256',
      nonce: more.nonce ?? (await nonce()),
      url: more.url ?? url,
      ...(more.kid === undefined ? { jwk } : { kid: more.kid }),
    });
    const body = payload === '' ? '' : b64(payload);
    const signature = createSign('sha256')
      .update(`${head}.${body}`)
      .sign({ key: more.key ?? privateKey, dsaEncoding: 'ieee-p1363' })
      .toString('base64url');
    return http('POST', url, JSON.stringify({ protected: head, payload: body, signature }));
  }

  it('refuses a nonce twice, an address that was not signed, and a signature of another key', async () => {
    const once = await nonce();
    expect((await post('/new-account', { termsOfServiceAgreed: true }, { nonce: once })).status).toBe(201);
    expect((await post('/new-account', {}, { nonce: once })).body.type).toBe('urn:ietf:params:acme:error:badNonce');
    expect((await post('/new-account', {}, { nonce: 'never-given' })).body.type).toBe(
      'urn:ietf:params:acme:error:badNonce',
    );
    expect((await post('/new-account', {}, { url: 'https://other.test/new-account' })).body.type).toBe(
      'urn:ietf:params:acme:error:unauthorized',
    );
    expect(
      (await post('/new-account', {}, { key: generateKeyPairSync('ec', { namedCurve: 'P-256' }).privateKey })).body
        .type,
    ).toBe('urn:ietf:params:acme:error:unauthorized');
    expect((await http('POST', `${base()}/new-account`, '{"no":"jws"}')).body.type).toBe(
      'urn:ietf:params:acme:error:malformed',
    );
  });

  it('knows an account again by its key, by the thumbprint of RFC 7638', async () => {
    const { headers, status } = await post('/new-account', { termsOfServiceAgreed: true });
    const thumbprint = createHash('sha256')
      .update(JSON.stringify({ crv: jwk.crv, kty: jwk.kty, x: jwk.x, y: jwk.y }))
      .digest('base64url');
    expect([status, headers.location]).toEqual([200, `${base()}/accounts/${thumbprint}`]);
    expect(
      (
        await post(
          '/new-order',
          { identifiers: [{ type: 'dns', value: 'quay.example' }] },
          { kid: `${base()}/accounts/unknown` },
        )
      ).body.type,
    ).toBe('urn:ietf:params:acme:error:accountDoesNotExist');
  });

  it('shows orders to their own account only, and takes no names that are none', async () => {
    const kid = (await post('/new-account', {})).headers.location ?? '';
    const made = await post('/new-order', { identifiers: [{ type: 'dns', value: 'quay.example' }] }, { kid });
    expect(made.status).toBe(201);
    const order = (made.headers.location ?? '').replace(base(), '');
    expect((await post(order, '', { kid })).status).toBe(200);
    const other = generateKeyPairSync('ec', { namedCurve: 'P-256' });
    const head = b64({
      alg: 'ES256',
      nonce: await nonce(),
      url: `${base()}/new-account`,
      jwk: other.publicKey.export({ format: 'jwk' }),
    });
    const signature = createSign('sha256')
      .update(`${head}.${b64({})}`)
      .sign({ key: other.privateKey, dsaEncoding: 'ieee-p1363' })
      .toString('base64url');
    const stranger =
      (await http('POST', `${base()}/new-account`, JSON.stringify({ protected: head, payload: b64({}), signature })))
        .headers.location ?? '';
    expect((await post(order, '', { kid: stranger, key: other.privateKey })).status).toBe(404);
    for (const value of ['-x-.example', 'a..b', '*'])
      expect((await post('/new-order', { identifiers: [{ type: 'dns', value }] }, { kid })).body.type).toBe(
        'urn:ietf:params:acme:error:rejectedIdentifier',
      );
  });

  it('gives nothing before the proof', async () => {
    const kid = (await post('/new-account', {})).headers.location ?? '';
    const made = await post('/new-order', { identifiers: [{ type: 'dns', value: 'quay.example' }] }, { kid });
    const order = (made.headers.location ?? '').replace(base(), '');
    expect((await post(`${order}/finalize`, { csr: '' }, { kid })).body.type).toBe(
      'urn:ietf:params:acme:error:orderNotReady',
    );
    expect((await post(order.replace('/orders/', '/certificates/'), '', { kid })).status).toBe(404);
  });
});

describe('the world as a whole', () => {
  it('keeps its clock, its names and its root when it is started again', async () => {
    const { aheadMs } = world.clock;
    const root = world.rootPem;
    expect(aheadMs).toBeGreaterThan(0);
    await world.stop();
    world = await start();
    expect(world.clock.aheadMs).toBe(aheadMs);
    expect(world.rootPem).toBe(root);
    expect(world.registry.find('new-quay.example')?.heldBy).toBe('account');
    await world.clock.runOn(-5000);
    expect(world.clock.aheadMs).toBe(aheadMs);
  });

  it('lets only its account play it', async () => {
    const panel = (path: string, init: RequestInit = {}) => fetch(`http://127.0.0.1:${world.ports.panel}${path}`, init);
    expect((await panel('/clock')).status).toBe(200);
    expect(
      (
        await panel('/clock', {
          method: 'POST',
          body: '{"byMs":1000}',
          headers: { 'content-type': 'application/json' },
        })
      ).status,
    ).toBe(401);
    const allowed = { authorization: `Bearer ${TOKEN}`, 'content-type': 'application/json' };
    expect((await panel('/clock', { method: 'POST', body: '{"byMs":-1}', headers: allowed })).status).toBe(400);
    expect((await panel('/faults', { method: 'PUT', body: '{"certificate":"odd"}', headers: allowed })).status).toBe(
      400,
    );
  });
});
