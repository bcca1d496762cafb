/**
 * Address from end to end through the API, on stand-ins that speak the real protocols: a brought domain
 * whose records are wrong, mended by hand and by update, a certificate, its renewal, and a name bought.
 */
import { speak } from '../src/words.ts';
import { link, standing } from '@fastigium/core/reach';
import { request } from 'node:https';
import { X509Certificate } from 'node:crypto';
import { connect, type TLSSocket } from 'node:tls';
import { setTimeout as pause } from 'node:timers/promises';
import type { AddressView, FoundName } from '@fastigium/contracts/api/address';
import type { HostingView } from '@fastigium/contracts/api/hosting';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { worldSeed } from '../../standins/src/registrar/registry.ts';
import { readWatchedDates } from '../src/features/watch/alerts.ts';
import { openHouse, zip, SMALL_SITE, type House } from './harness.ts';

const ZONE = [
  '$TTL 3600',
  '@ SOA ns1.registrar.test. hostmaster.registrar.test. 1 7200 900 1209600 600',
  '@ 86400 NS ns1.registrar.test.',
  '@ 86400 NS ns2.registrar.test.',
  '@ A 203.0.113.9',
  'www CNAME harbour.example.',
  '@ MX 10 mail',
  'mail A 203.0.113.77',
  '@ TXT "v=spf1 mx -all"',
  '',
].join('\n');

let house: House;
const sites: Record<string, string> = {};
const DAY_MS = 86_400_000;

beforeAll(async () => {
  const held = { heldBy: 'account', registeredYearsAgo: 5, yearsLeft: 2 } as const;
  house = await openHouse({
    seed: worldSeed.parse({
      holdings: [
        { ...held, name: 'harbour.example', zone: ZONE },
        {
          ...held,
          name: 'mailtrap.example',
          zone: ZONE.replace('mail A 203.0.113.77\n', '')
            .replaceAll('harbour', 'mailtrap')
            .replace('MX 10 mail', 'MX 10 mailtrap.example.'),
        },
        {
          ...held,
          name: 'old-harbour.example',
          zone: ZONE.replaceAll('harbour', 'old-harbour').replace(/@ MX.*\n|mail A.*\n/g, ''),
        },
        { name: 'taken.example', heldBy: 'elsewhere', registeredYearsAgo: 1, yearsLeft: 1 },
      ],
    }),
  });
  for (const name of ['Harbour', 'Mailtrap', 'Bought']) {
    const site = await house.owner.newSite(name);
    sites[name] = site;
    await house.owner.bringIn(site, await zip(SMALL_SITE));
    await house.owner.publish(site);
  }
});
afterAll(() => house.stop());

const path = (site: string, rest = '') => `/api/sites/${sites[site]}${rest}`;
const view = async (site: string) => (await house.owner.get<AddressView>(path(site, '/address'))).body;
const look = async (site: string) => (await house.owner.post<AddressView>(path(site, '/address/lookups'))).body;
const state = (seen: AddressView, link: string) => seen.chain.find((each) => each.link === link)?.state;
const runOn = (ms: number) => house.owner.post('/api/stand-ins/clock', { byMs: ms });

async function until(site: string, holds: (seen: AddressView) => boolean): Promise<AddressView> {
  for (let tries = 0; tries < 150; tries += 1) {
    const seen = await view(site);
    if (holds(seen)) return seen;
    await pause(100);
  }
  const { certificate, chain, spread, nextLookupAt, now } = await view(site);
  throw new Error(
    `it never came to that: ${JSON.stringify({ now, nextLookupAt, certificate, chain: chain.map(({ link, state: how, words }) => [link, how, words]), spread })}`,
  );
}

/** What a browser that knows the stand-ins' root gets for a name; the world's clock may be far ahead of this machine's. */
function https(
  name: string,
  target = '/',
): Promise<{ status: number; location: string | undefined; hsts: string | undefined; body: string }> {
  return new Promise((resolve, reject) => {
    request(
      {
        host: '127.0.0.1',
        port: house.world.ports.tls,
        servername: name,
        path: target,
        headers: { host: name },
        ca: house.world.rootPem,
        rejectUnauthorized: false,
      },
      (answer) => {
        const { authorized, authorizationError } = answer.socket as TLSSocket;
        if (!authorized && String(authorizationError) !== 'CERT_NOT_YET_VALID')
          reject(new Error(String(authorizationError)));
        let body = '';
        answer.on('data', (piece: Buffer) => (body += piece.toString()));
        answer.on('end', () =>
          resolve({
            status: answer.statusCode ?? 0,
            location: answer.headers.location,
            hsts: answer.headers['strict-transport-security'],
            body,
          }),
        );
      },
    )
      .on('error', reject)
      .end();
  });
}

describe('a domain that is owned already', () => {
  it('is brought as it is pasted, and the first broken link is the records', async () => {
    const { status, body } = await house.owner.put<AddressView>(path('Harbour', '/domain'), {
      name: ' https://www.Harbour.example/visit ',
    });
    expect(status).toBe(201);
    expect(body.domain).toMatchObject({
      name: 'harbour.example',
      main: 'www.harbour.example',
      others: [{ name: 'harbour.example', status: 308 }],
      updates: { keyName: 'update.harbour.example' },
    });
    expect(body.firstBroken).toBe('records');
    expect(body.chain.map(({ link, state: how }) => [link, how])).toEqual([
      ['registration', 'right'],
      ['name-servers', 'right'],
      ['records', 'broken'],
      ['certificate', 'waiting'],
      ['host', 'right'],
    ]);
    expect(body.chain.every(({ asked }) => asked.length > 0)).toBe(true);
  });

  it('shows answered beside needed, keeps mail, and never proposes a CNAME at the apex', async () => {
    const seen = await view('Harbour');
    expect(seen.changes.map(({ kind, name, type, to }) => [kind, name, type, to])).toEqual([
      ['replace', 'www.harbour.example', 'CNAME', ['edge.host.test.']],
      ['replace', 'harbour.example', 'A', ['198.51.100.24']],
      ['add', 'harbour.example', 'AAAA', ['2001:db8:51::24']],
    ]);
    expect(
      seen.records
        .filter(({ state: how }) => how === 'kept')
        .map(({ type }) => type)
        .sort(),
    ).toEqual(['MX', 'NS', 'TXT']);
    expect(seen.mail).toMatchObject({ endangered: false });
    expect(
      seen.records.some(
        ({ name, type, needed }) =>
          name === 'harbour.example' && type === 'CNAME' && needed !== null && needed.length > 0,
      ),
    ).toBe(false);
  });

  it('gives the zone out whole, with what is needed and without losing anything', async () => {
    const { body } = await house.owner.get<{ text: string; source: string }>(path('Harbour', '/zone'));
    expect(body.text).toContain('mail');
    expect(body.text).toMatch(/MX\s+10 mail\.harbour\.example\./);
    expect(body.text).toMatch(/198\.51\.100\.24/);
    expect(body.text).not.toMatch(/203\.0\.113\.9\b/);
  });

  it('reckons who still gets the old answer after a change by hand, with nothing republished', async () => {
    const { body: zone } = await house.owner.get<{ text: string }>(path('Harbour', '/zone'));
    expect((await house.owner.put('/api/stand-ins/zones/harbour.example', { text: zone.text })).status).toBe(200);
    const seen = await look('Harbour');
    expect(seen.changes).toEqual([]);
    expect(state(seen, 'records')).toBe('moving');
    const until_ =
      seen.spread?.resolvers.map(({ resolver, state: how, oldUntil }) => ({
        resolver,
        how,
        left: oldUntil === null ? null : Math.round((Date.parse(oldUntil) - Date.parse(seen.now)) / 1000),
      })) ?? [];
    expect(until_.every(({ how }) => how === 'old')).toBe(true);
    // Old TTL 3600 s: a resolver asked by others long ago forgets first, nobody keeps it longer than an hour.
    expect(Math.min(...until_.map(({ left }) => left ?? 0))).toBeGreaterThan(500);
    expect(Math.max(...until_.map(({ left }) => left ?? 0))).toBeLessThanOrEqual(3601);
    expect(Date.parse(seen.spread?.everyoneBy ?? '')).toBeGreaterThanOrEqual(Date.parse(seen.now) + 3_590_000);
    expect((await house.owner.get<{ changes: unknown[] }>(path('Harbour', '/changes'))).body.changes).toEqual([]);
  });

  it('gets a certificate by itself once the records are right, and https is answered', async () => {
    const seen = await until('Harbour', (each) => each.certificate.state === 'served');
    expect(seen.certificate.names.sort()).toEqual(['harbour.example', 'www.harbour.example']);
    expect(seen.certificate.daysLeft).toBeGreaterThan(89);
    // It renews itself, and another one that would answer in its place does not.
    const { db } = house.server.deps;
    const id = sites.Harbour ?? '';
    const renewed = async () => (await readWatchedDates(db, id)).certificates?.map(({ renewsItself }) => renewsItself);
    expect(await renewed()).toEqual([true]);
    await db.run(`update certificate set not_after = not_after - interval '1 day' where site_id = $1`, [id]);
    expect(await renewed()).toEqual([false]);
    await db.run(`update certificate set not_after = not_after + interval '1 day' where site_id = $1`, [id]);
    expect(seen.domain?.forceHttps).toBe(true);
    expect(await https('www.harbour.example', '/visit/')).toMatchObject({ status: 200 });
    expect(await https('harbour.example', '/visit/?a=1')).toMatchObject({
      status: 308,
      location: 'https://www.harbour.example/visit/?a=1',
    });
  });

  it('reaches everyone when the clock has run on past the last old answer', async () => {
    await runOn(3_700_000);
    const seen = await until(
      'Harbour',
      (each) => each.spread?.resolvers.every(({ state: how }) => how === 'new') === true,
    );
    expect(seen.chain.map(({ state: how }) => how)).toEqual(['right', 'right', 'right', 'right', 'right']);
    expect(seen.firstBroken).toBeNull();
  });

  it('offers HSTS with a certificate, and refuses it without', async () => {
    expect((await house.owner.patch(path('Harbour', '/address'), { hstsSeconds: 300 })).status).toBe(200);
    expect(await https('www.harbour.example')).toMatchObject({ hsts: 'max-age=300' });
    await house.owner.put(path('Mailtrap', '/domain'), { name: 'mailtrap.example' });
    expect(
      (await house.owner.patch<{ error: { code: string } }>(path('Mailtrap', '/address'), { hstsSeconds: 300 })).body
        .error.code,
    ).toBe('hsts-too-early');
  });

  it('turns main and other round, and a further name keeps path and query', async () => {
    await house.owner.patch(path('Harbour', '/address'), { mainForm: 'apex' });
    expect(await https('www.harbour.example', '/a?b=c')).toMatchObject({
      status: 308,
      location: 'https://harbour.example/a?b=c',
    });
    const { body } = await house.owner.post<AddressView>(path('Harbour', '/domain/further'), {
      name: 'old-harbour.example',
    });
    expect(body.domain?.others).toContainEqual({ name: 'www.old-harbour.example', status: 301, further: true });
    // Its records are its own affair; those of the main domain are as right as before.
    const [old] = body.further;
    expect(old?.chain.map(({ link, state: how }) => `${link} ${how}`)).toContain('records broken');
    expect([body.changes, body.firstBroken, body.certificate.state]).toEqual([[], null, 'served']);
    expect((await house.owner.overview(sites.Harbour ?? '')).address).toMatchObject({
      state: 'moving',
      words: standing('of-domain', {
        domain: 'old-harbour.example',
        standing: standing('at-link', { link: 'records', words: link('some-right', { right: 0, all: 3 }) }),
      }),
    });
    // Its zone is in the account as well, so it is put right by sending, too.
    expect(body.domain?.updatable).toEqual(['harbour.example', 'old-harbour.example']);
    expect(
      (await house.owner.post<AddressView>(path('Harbour', '/address/update'), { changes: old?.changes })).body.further,
    ).toMatchObject([{ zone: 'old-harbour.example', changes: [] }]);
    const plain = await fetchByName('old-harbour.example', '/page?x=1');
    expect(plain).toEqual({ status: 301, location: 'https://harbour.example/page?x=1' });
  });

  it('each has a certificate of its own; one that leads nowhere holds up none of the others', async () => {
    await house.owner.post<AddressView>(path('Harbour', '/domain/further'), { name: 'never-harbour.example' });
    const seen = await until('Harbour', ({ further }) => further[0]?.certificate.state === 'served');
    expect(seen.further.map(({ zone, certificate }) => [zone, certificate.state, certificate.names.sort()])).toEqual([
      ['old-harbour.example', 'served', ['old-harbour.example', 'www.old-harbour.example']],
      ['never-harbour.example', 'wrong', ['harbour.example', 'www.harbour.example']],
    ]);
    expect(seen.certificate.names.sort()).toEqual(['harbour.example', 'www.harbour.example']);
    expect(seen.further.map(({ firstBroken: link }) => link)).toEqual(['records', 'registration']);
    // A browser is content with each name, and led on.
    expect(await https('www.old-harbour.example', '/page?x=1')).toMatchObject({
      status: 301,
      location: 'https://harbour.example/page?x=1',
    });
    expect(await https('harbour.example', '/visit/')).toMatchObject({ status: 200 });
  });

  it('is renewed by itself when a third of its life is left', async () => {
    const before = await until('Harbour', (each) => each.certificate.state === 'served');
    await runOn(61 * DAY_MS);
    const after = await until(
      'Harbour',
      (each) => each.certificate.state === 'served' && each.certificate.notAfter !== before.certificate.notAfter,
    );
    expect(
      Date.parse(after.certificate.notAfter ?? '') - Date.parse(before.certificate.notAfter ?? ''),
    ).toBeGreaterThan(60 * DAY_MS);
    for (const name of ['old-harbour.example', 'never-harbour.example'])
      await house.owner.send('DELETE', path('Harbour', `/domain/${name}`));
    expect((await view('Harbour')).further).toEqual([]);
    const wire = await new Promise<X509Certificate>((resolve, reject) => {
      const socket = connect(
        {
          host: '127.0.0.1',
          port: house.world.ports.tls,
          servername: 'harbour.example',
          ca: house.world.rootPem,
          rejectUnauthorized: false,
        },
        () => {
          resolve(new X509Certificate(socket.getPeerCertificate().raw));
          socket.destroy();
        },
      );
      socket.on('error', reject);
    });
    expect(wire.checkHost('www.harbour.example')).toBe('www.harbour.example');
  });
});

function fetchByName(name: string, target: string): Promise<{ status: number; location: string | undefined }> {
  return house.visit(name, target).then(({ status, location }) => ({ status, location }));
}

describe('mail', () => {
  it('is not ended by an update: an MX on the apex itself is refused', async () => {
    const seen = await look('Mailtrap');
    expect(seen.mail?.endangered).toBe(true);
    const refused = await house.owner.post<{ error: { code: string } }>(path('Mailtrap', '/address/update'), {
      changes: seen.changes,
    });
    expect(refused.body.error.code).toBe('update-ends-mail');
    expect(house.world.registry.find('mailtrap.example')?.records.find(({ type }) => type === 'A')?.data).toBe(
      '203.0.113.9',
    );
  });
});

describe('a name that is found', () => {
  it('is told free or taken by the registry, with a score, reasons and its cost', async () => {
    const { body } = await house.owner.get<{ names: FoundName[] }>(path('Bought', '/names?q=taken.example'));
    const byName = new Map(body.names.map((name) => [name.name, name]));
    expect(byName.get('taken.example')).toMatchObject({ state: 'taken', costs: [] });
    expect(byName.get('taken.test')).toMatchObject({ state: 'free' });
    expect(body.names.some(({ alternative, state: how }) => alternative && how === 'free')).toBe(true);
    const free = byName.get('taken.test');
    expect(free?.costs.map(({ years, totalCents }) => [years, totalCents])).toEqual([
      [1, 900],
      [2, 2352],
      [5, 6348],
    ]);
    expect(free?.score.reasons.length).toBeGreaterThan(0);
  });

  it('is registered, its records sent by a signed update, and served by https', async () => {
    const bought = await house.owner.post<AddressView>(path('Bought', '/names'), {
      name: 'blue-quay.example',
      years: 2,
      privacy: true,
    });
    expect(bought.status).toBe(201);
    expect(bought.body.changes.map(({ kind }) => kind)).toEqual(['add', 'add', 'add']);
    const sent = await house.owner.post<AddressView>(path('Bought', '/address/update'), {
      changes: bought.body.changes,
    });
    expect(sent.body.changes).toEqual([]);
    await until('Bought', (each) => each.certificate.state === 'served');
    expect((await https('www.blue-quay.example')).status).toBe(200);
    // Past everything that any resolver may still remember, the office's half an hour at least included.
    await runOn(2 * 3_600_000);
  });

  it('is refused when the changes shown are not the needed ones any more', async () => {
    const outdated = await house.owner.post<{ error: { code: string } }>(path('Bought', '/address/update'), {
      changes: [
        {
          zone: 'blue-quay.example',
          kind: 'add',
          name: 'blue-quay.example',
          type: 'A',
          from: [],
          to: ['192.0.2.1'],
          ttlSeconds: 60,
        },
      ],
    });
    expect(outdated.body.error.code).toBe('update-outdated');
  });

  it.each([
    ['lantern..example', 'two dots'],
    ['-a.example', 'hyphen'],
    [`${'a'.repeat(64)}.example`, '63'],
    ['a b.example', 'spaces'],
    ['\u{1F600}.example', 'emoji'],
    ['p\u0430ypal.example', 'mixes'],
    ['localhost', 'reserved'],
  ])('%s is no name, and why is said', async (name, reason) => {
    const { status, body } = await house.owner.put<{ error: { code: string; message: string } }>(
      path('Bought', '/domain'),
      { name },
    );
    expect([status, body.error.code]).toEqual([422, 'name-unreadable']);
    expect(body.error.message).toContain(reason);
  });

  it('leads to one site only', async () => {
    const { body } = await house.owner.put<{ error: { code: string } }>(path('Mailtrap', '/domain'), {
      name: 'harbour.example',
    });
    expect(body.error.code).toBe('name-elsewhere');
  });
});

describe('a world that fails', () => {
  const faults = (wrong: object) =>
    house.owner.put('/api/stand-ins/faults', {
      nameServers: ['none', 'none'],
      resolvers: {},
      certificate: 'none',
      authority: 'none',
      registrar: 'none',
      ...wrong,
    });

  it('one name server silent: visitors get through, and it is named', async () => {
    await faults({ nameServers: ['none', 'silent'] });
    const seen = await look('Bought');
    expect(seen.chain.find(({ link }) => link === 'name-servers')).toMatchObject({
      state: 'moving',
      words: link('some-answer', { answering: 1, all: 2 }),
    });
    expect(seen.changes).toEqual([]);
  });

  it('no name server answers: nothing is said of records, mail or the spread that is not known', async () => {
    await faults({ nameServers: ['silent', 'refuses'] });
    const seen = await look('Bought');
    expect(seen.chain.slice(1, 3).map(({ state: how, words }) => [how, words])).toEqual([
      ['broken', link('none-answers')],
      ['waiting', link('waits-for', { link: 'nameServers' })],
    ]);
    expect([seen.mail, seen.records, seen.changes]).toEqual([null, [], []]);
    expect(seen.spread).toMatchObject({ authorityAnswers: false });
    // Resolvers still have what they were told; that is seen, not guessed.
    expect(seen.spread?.resolvers.every(({ state: how }) => how !== 'old')).toBe(true);
    expect(seen.domain?.forceHttps).toBe(true);
    await faults({});
  });

  it('answers cut short are asked for again over TCP', async () => {
    await faults({ nameServers: ['truncates', 'none'] });
    const seen = await look('Bought');
    expect(state(seen, 'name-servers')).toBe('right');
    expect(seen.changes).toEqual([]);
  });

  it('resolvers that lie, mix answers up, refuse or never answer are told apart', async () => {
    await faults({ resolvers: { home: 'lies', public: 'mixes-up', mobile: 'refuses', campus: 'silent' } });
    const seen = await look('Bought');
    const words = Object.fromEntries(
      seen.chain
        .find(({ link }) => link === 'records')
        ?.asked.filter(({ question }) => question === 'A blue-quay.example')
        .map(({ ofWhom, answer }) => [ofWhom.split(' (')[0], speak(answer)]) ?? [],
    );
    expect(words['Home line']).toContain('192.0.2.66');
    expect(words['Public resolver']).toContain('another question');
    expect(words['Mobile network']).toContain('REFUSED');
    expect(words['Campus']).toContain('no answer within');
    expect(seen.spread?.resolvers.map(({ state: how }) => how)).toEqual(['old', 'silent', 'silent', 'new', 'silent']);
  });

  it('a certificate for another name, or one that has run out, is not put in place', async () => {
    for (const certificate of ['wrong-name', 'expired']) {
      await faults({ certificate });
      const { body } = await house.owner.post<{ job: string }>(path('Bought', '/address/certificate'));
      const job = await house.owner.ended(body.job);
      expect(job.error?.code).toBe('certificate-refused');
      expect((await https('www.blue-quay.example')).status).toBe(200);
    }
    await faults({ authority: 'refuses' });
    const { body } = await house.owner.post<{ job: string }>(path('Bought', '/address/certificate'));
    expect((await house.owner.ended(body.job)).error?.code).toBe('certificate-refused');
    expect((await view('Bought')).certificate).toMatchObject({
      error: { code: 'certificate-refused' },
    });
    await faults({});
  });

  it('a registry that does not answer is no reason to say the name is gone', async () => {
    await faults({ registrar: 'refuses' });
    const seen = await look('Bought');
    expect(seen.chain.find(({ link }) => link === 'registration')).toMatchObject({
      state: 'moving',
      words: link('not-known'),
    });
    await faults({});
  });
});

describe('a zone file', () => {
  const outside = async () => {
    // The registrar's account is away, so neither its zone nor its key can be had.
    await house.owner.put('/api/stand-ins/faults', {
      nameServers: ['none', 'none'],
      resolvers: {},
      certificate: 'none',
      authority: 'none',
      registrar: 'refuses',
    });
  };

  it('is not written while the account that holds the zone is away; a brought one is taken whole, one with an error not at all', async () => {
    await outside();
    await look('Mailtrap');
    const zone = async () =>
      (await house.owner.get<{ text: string; error?: { code: string } }>(path('Mailtrap', '/zone'))).body;
    expect((await zone()).error?.code).toBe('registrar-refused');
    await house.owner.put('/api/stand-ins/faults', {
      nameServers: ['none', 'none'],
      resolvers: {},
      certificate: 'none',
      authority: 'none',
      registrar: 'none',
    });
    const bad = await house.owner.put<{ error: { code: string; message: string } }>(path('Mailtrap', '/zone'), {
      text: '$TTL 60\n@ A 1.2.3.400\n',
    });
    expect(bad.body.error).toMatchObject({
      code: 'zone-unreadable',
      message: expect.stringContaining('Line 2') as string,
    });
    const good = await house.owner.put<{ records: number; kept: number }>(path('Mailtrap', '/zone'), {
      text: `${ZONE.replaceAll('harbour', 'mailtrap')}intern A 192.0.2.9\n`,
    });
    expect(good.body).toEqual({ records: 9, kept: 7 });
  });
});

describe('a host', () => {
  it('is held against what the site needs', async () => {
    const { body } = await house.owner.get<HostingView>(path('Bought', '/hosting?months=12'));
    expect(body.needs).toMatchObject({ files: Object.keys(SMALL_SITE).length, ownDomain: true });
    expect(body.plans.map(({ plan, fits }) => [plan.id, fits])).toEqual([
      ['lean-to', false],
      ['one-bay', true],
      ['two-bay', true],
      ['nave', true],
    ]);
    expect(body.plans[1]).toMatchObject({ setUpCents: 0, totalCents: 6000 });
    const short = (await house.owner.get<HostingView>(path('Bought', '/hosting?months=6'))).body;
    expect(short.plans[1]).toMatchObject({ setUpCents: 1500, totalCents: 4500 });
    expect(body.plans[2]?.downMinutesPerMonth).toBe(43.2);
  });

  it('ranks regions by where visitors are, weighted by their visits', async () => {
    const ranked = async (visitors: object[]) =>
      (await house.owner.put<HostingView>(path('Bought', '/hosting/visitors'), { visitors })).body.regions.map(
        ({ id }) => id,
      );
    expect(
      (await house.owner.get<HostingView>(path('Bought', '/hosting'))).body.regions.every(({ km }) => km === null),
    ).toBe(true);
    expect(
      (
        await ranked([
          { code: 'SE', visits: 900 },
          { code: 'US', visits: 10 },
        ])
      )[0],
    ).toBe('baltic');
    expect(
      (
        await ranked([
          { code: 'AU', visits: 900 },
          { code: 'SE', visits: 10 },
        ])
      )[0],
    ).toBe('pacific-south');
    expect(
      (await house.owner.put(path('Bought', '/hosting/visitors'), { visitors: [{ code: 'XQ', visits: 1 }] })).status,
    ).toBe(404);
    expect(
      (
        await house.owner.put<HostingView>(path('Bought', '/hosting/plan'), {
          plan: 'two-bay',
          region: 'isles',
          months: 24,
        })
      ).body.account,
    ).toMatchObject({ plan: 'two-bay', region: 'isles', months: 24 });
    // Choosing a plan forgets nobody.
    expect(
      (await house.owner.get<HostingView>(path('Bought', '/hosting'))).body.visitors.map(({ code }) => code),
    ).toEqual(['AU', 'SE']);
  });

  it('gives another temporary address; the old one leads there; a taken one is refused with free ones', async () => {
    const { body } = await house.owner.put<HostingView>(path('Bought', '/hosting/temporary'), { label: 'quayside' });
    expect(body.temporary?.label).toBe('quayside');
    expect(await house.visit('quayside.localhost', '/visit/')).toMatchObject({ status: 200 });
    expect(await house.visit('bought.localhost', '/visit/?a=b')).toMatchObject({
      status: 308,
      location: 'http://quayside.localhost/visit/?a=b',
    });
    const taken = await house.owner.put<{ error: { code: string; message: string } }>(
      path('Bought', '/hosting/temporary'),
      { label: 'www' },
    );
    expect(taken.body.error.code).toBe('temporary-name-taken');
    expect(taken.body.error.message).toContain('www-site');
  });
});

describe('a host of one’s own', () => {
  it('that has not said where it answers leads to no change of any record; a name is looked up', async () => {
    const folder = house.hostFolder;
    await house.owner.put(path('Mailtrap', '/hosting/account'), { kind: 'folder', folder });
    const unsaid = await look('Mailtrap');
    expect(unsaid.changes).toEqual([]);
    expect(unsaid.chain.find(({ link }) => link === 'records')).toMatchObject({
      state: 'broken',
      words: link('host-not-known'),
    });
    await house.owner.put(path('Mailtrap', '/hosting/account'), {
      kind: 'folder',
      folder,
      url: 'http://edge.host.test/',
    });
    expect((await look('Mailtrap')).changes.map(({ name, type, to }) => `${name} ${type} ${to.join()}`)).toEqual([
      'www.mailtrap.example CNAME edge.host.test.',
      'mailtrap.example A 198.51.100.24',
      'mailtrap.example AAAA 2001:db8:51::24',
    ]);
    await house.owner.put(path('Mailtrap', '/hosting/account'), { kind: 'stand-in' });
  });
});

describe('secrets', () => {
  it('are sealed at rest and never sent back', async () => {
    const secret = house.world.registry.find('blue-quay.example')?.updateKey?.secret ?? '';
    expect(secret.length).toBeGreaterThan(20);
    const { body } = await house.owner.get(path('Bought', '/address'));
    expect(JSON.stringify(body)).not.toContain(secret);
    const { rows } = await house.server.deps.db.pool.query<{ line: string }>(
      'select a::text as line from address a union all select c::text from certificate c union all select k::text from acme_account k',
    );
    const all = rows.map(({ line }) => line).join('\n');
    expect(all.length).toBeGreaterThan(500);
    expect(all).not.toContain(secret);
    expect(all).not.toContain(Buffer.from(secret).toString('hex'));
    expect(all).not.toMatch(/PRIVATE KEY|505249564154452d?204b4559/i);
  });
});
