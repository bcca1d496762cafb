/** Rules found wanting, mended, written for other programs, read from them, and proved on draft and live host. Sites and names are invented. */
import { mend } from '@fastigium/core/checks';
import { ruleFault } from '@fastigium/core/redirects';
import type { RedirectProof } from '@fastigium/contracts/api/redirectProof';
import type { PatternRow, RedirectRow } from '@fastigium/contracts/api/redirects';
import type { ExportedRules, RulesRead } from '@fastigium/contracts/api/ruleFiles';
import type { Snags } from '@fastigium/contracts/api/snags';
import { parse as parseCsv } from 'csv-parse/sync';
import { execFileSync } from 'node:child_process';
import { writeFile } from 'node:fs/promises';
import { parse as parseHtml } from 'parse5';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { letBe, openHouse, zip, type House } from './harness.ts';

const html = (title: string) =>
  `<!DOCTYPE html>\n<html lang="en"><head><meta charset="utf-8"><title>${title}</title></head><body><main><h1>${title}</h1></main></body></html>\n`;
const FILES = {
  'index.html': html('Moor'),
  'visit/index.html': html('Visit'),
  'about.html': html('About'),
  'sky/red-moon/index.html': html('A red moon'),
};

let house: House;
let site: string;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.stop());
beforeEach(async () => {
  site = await house.owner.newSite(`Moor ${Math.random()}`);
  await house.owner.bringIn(site, await zip(FILES));
});

const api = (path: string) => `/api/sites/${site}/${path}`;
const rows = async () => (await house.owner.get<{ rows: RedirectRow[] }>(api('redirects'))).body.rows;
const row = async (from: string) => (await rows()).find((each) => each.from === from);
const known = (...addresses: [string, number | null][]) =>
  house.owner.post(api('old-addresses'), { addresses: addresses.map(([address, visits]) => ({ address, visits })) });
const to = (address: string) => ({
  status: 301,
  target: /^https?:/.test(address) ? { kind: 'url', url: address } : { kind: 'address', address },
});
const settle = (all: Record<string, string>) =>
  house.owner.decide(site, {
    kind: 'redirects',
    settle: Object.entries(all).map(([from, address]) => ({ from, to: to(address) })),
    remove: [],
  });
async function checked(): Promise<Snags> {
  for (;;) {
    const { body } = await house.owner.get<Snags>(api('snags'));
    if (body.isCurrent) return body;
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}
async function prove(): Promise<RedirectProof> {
  const { body } = await house.owner.post<{ job: string }>(api('redirects/proof'));
  expect(await house.owner.ended(body.job)).toMatchObject({ state: 'done', error: null });
  return (await house.owner.get<RedirectProof>(api('redirects/proof'))).body;
}

describe('what is wrong with rules', () => {
  it('is told where they are settled and as snags, before anything is published', async () => {
    await known(['/x/a', 5], ['/x/b', 4]);
    await settle({ '/a.php': '/b.php', '/b.php': '/visit/', '/c.php': '/nowhere/', '/ok.php': '/about.html' });
    const page = (await house.owner.page(site, '/sky/red-moon/')).id;
    await house.owner.decide(site, {
      kind: 'redirect',
      from: '/d.php',
      to: { status: 301, target: { kind: 'page', page } },
    });
    await house.owner.decide(site, { kind: 'ready', page, ready: false });
    await house.owner.decide(site, {
      kind: 'pattern',
      id: null,
      text: '/x/*',
      status: 301,
      target: '/visit/',
      ignoreCase: false,
      dropsQuery: false,
    });
    await house.owner.decide(site, {
      kind: 'pattern',
      id: null,
      text: '/x/:name',
      status: 301,
      target: '/about.html',
      ignoreCase: false,
      dropsQuery: false,
    });
    const problems = Object.fromEntries((await rows()).map(({ from, problem }) => [from, problem?.kind ?? null]));
    expect(problems).toEqual({
      '/x/a': null,
      '/x/b': null,
      '/a.php': 'chain',
      '/b.php': null,
      '/c.php': 'dead',
      '/ok.php': null,
      '/d.php': 'no-target',
    });
    expect((await row('/a.php'))?.problem).toEqual({
      kind: 'chain',
      message: ruleFault('detour', { steps: 2, end: '/visit/', way: '/a.php → /b.php → /visit/' }),
      final: '/visit/',
    });
    expect(
      (await house.owner.get<PatternRow[]>(api('patterns'))).body.map(({ problem }) => problem?.message ?? null),
    ).toEqual([null, ruleFault('rule-first', { address: '/x/*' })]);
    const snags = (await checked()).snags.filter(({ code }) => code.startsWith('redirect-'));
    expect(snags.map(({ code, subject }) => `${code} ${subject}`).sort()).toEqual([
      'redirect-chain /a.php',
      'redirect-dead /c.php',
      'redirect-idle /x/:name',
      'redirect-no-target /d.php',
    ]);
  });

  it('a chain is flattened in one step, from the list or as a snag, and keeps its options; one step takes it back', async () => {
    await house.owner.decide(site, {
      kind: 'redirect',
      from: '/a.php',
      to: { ...to('/b.php'), status: 308 },
      dropsQuery: true,
      note: 'from the printed guide',
    });
    await settle({ '/b.php': '/c.php', '/c.php': '/visit' });
    const flat = await house.owner.decide(site, { kind: 'chains-flattened', addresses: null });
    expect(flat.body.message).toMatchObject({ code: 'decision.flattened', parameters: { count: 3 } });
    expect(
      (await rows()).map(({ from, status, to: where, toTitle, problem, dropsQuery, note }) => [
        from,
        status,
        where,
        toTitle,
        problem,
        dropsQuery,
        note,
      ]),
    ).toEqual([
      ['/a.php', 308, '/visit/', 'Visit', null, true, 'from the printed guide'],
      ['/b.php', 301, '/visit/', 'Visit', null, false, null],
      ['/c.php', 301, '/visit/', 'Visit', null, false, null],
    ]);
    expect((await house.owner.decide(site, { kind: 'chains-flattened', addresses: null })).body.error?.code).toBe(
      'nothing-to-flatten',
    );
    await house.owner.decide(site, { kind: 'step', direction: 'back' });
    const snag = (await checked()).snags.find(({ code, subject }) => code === 'redirect-chain' && subject === '/a.php');
    expect(snag?.mend?.label).toEqual(mend('lead-there'));
    const { version } = await house.owner.overview(site);
    await house.owner.post(api(`snags/${snag?.key}/mend`), { version });
    expect([(await row('/a.php'))?.to, (await row('/b.php'))?.problem?.kind]).toEqual(['/visit/', 'chain']);
  });

  it('a rule until a day holds until then, and one that is over is refused', async () => {
    await house.owner.decide(site, {
      kind: 'redirect',
      from: '/sale.php',
      to: to('/visit/'),
      until: '2199-12-31',
      note: 'the autumn sale',
    });
    expect(await row('/sale.php')).toMatchObject({
      to: '/visit/',
      until: '2199-12-31',
      note: 'the autumn sale',
      origin: 'decided',
    });
    const past = await house.owner.decide(site, {
      kind: 'redirect',
      from: '/old-sale.php',
      to: to('/visit/'),
      until: '2001-12-31',
    });
    expect([past.status, past.body.error?.code]).toEqual([422, 'day-over']);
    expect(
      (await house.owner.decide(site, { kind: 'redirect', from: '/sale.php', to: to('/visit/'), until: 'some day' }))
        .status,
    ).toBe(400);
    expect(await row('/old-sale.php')).toBeUndefined();
  });
});

describe('the proof', () => {
  it('needs something live', async () => {
    const { status, body } = await house.owner.post<{ error: { code: string } }>(api('redirects/proof'));
    expect([status, body.error.code]).toEqual([409, 'nothing-live']);
    expect((await house.owner.get<RedirectProof>(api('redirects/proof'))).body).toMatchObject({
      isLive: false,
      live: null,
    });
  });

  it('finds on the live host, over HTTP, what the draft promised; afterwards what became otherwise', async () => {
    await known(
      ['/a.php', 100],
      ['/b.php?id=1', 50],
      ['/news/2016/red-moon.html', 30],
      ['/gone.php', 10],
      ['/lost.php', 5],
      ['/visit/', 20],
      ['/visit', 2],
    );
    await settle({ '/a.php': '/visit/#times', '/b.php?id=1': '/', '/out.php': 'http://out.invalid/' });
    await house.owner.decide(site, { kind: 'redirect', from: '/gone.php', to: { status: 410 } });
    await house.owner.decide(site, {
      kind: 'pattern',
      id: null,
      text: '/news/:year/:slug.html',
      status: 308,
      target: '/sky/:slug/',
      ignoreCase: false,
      dropsQuery: false,
    });
    await letBe(house, site);
    await house.owner.publish(site);
    const proof = await prove();
    expect(proof).toMatchObject({ isLive: true, live: { release: 1, isCurrent: true, by: { name: 'Ada Stone' } } });
    const ends = Object.fromEntries(
      proof.rows.map(({ from, live }) => [
        from,
        live && `${live.hops.map(({ status }) => status).join(' ')} ${live.end} ${live.final ?? ''}`.trim(),
      ]),
    );
    expect(ends).toEqual({
      '/a.php': '301 200 page /visit/',
      '/b.php?id=1': '301 200 home /',
      '/news/2016/red-moon.html': '308 200 page /sky/red-moon/',
      '/gone.php': '410 gone',
      '/lost.php': '404 missing /lost.php',
      '/visit/': '200 page /visit/',
      '/visit': '301 200 page /visit/',
      '/out.php': '301 outside http://out.invalid/',
    });
    // From outside and from within the same, address by address: so coverage is what the proof found.
    for (const { from, draft, live } of proof.rows)
      expect([from, live?.problem ?? null, live?.end, live?.hops]).toEqual([from, null, draft.end, draft.hops]);
    expect((await rows()).map(({ from, end }) => [from, end]).sort()).toEqual(
      proof.rows.map(({ from, live }) => [from, live?.end]).sort(),
    );
    // The other host was asked as well, and is none.
    expect((await row('/out.php'))?.problem).toMatchObject({ kind: 'outside' });

    // What lies on the host's disk is no longer what was published.
    const { hash } = await house.server.deps.db.one<{ hash: string }>(
      `select hash from source_file where path = 'visit/index.html' and import_id = (select current_import from site where id = $1)`,
      [site],
    );
    const found = execFileSync('find', [house.hostFolder, '-name', `*${hash.slice(2)}*`])
      .toString()
      .trim()
      .split('\n')
      .filter((path) => path !== '');
    expect(found.length).toBeGreaterThan(0);
    for (const path of found) await writeFile(path, html('Somebody else’s page'));
    const again = await prove();
    expect(again.rows.find(({ from }) => from === '/a.php')?.live?.problem).toEqual({
      code: 'live-way.differs',
      parameters: {},
    });
    expect(again.rows.find(({ from }) => from === '/gone.php')?.live?.problem).toBeNull();
    for (const path of found) await writeFile(path, FILES['visit/index.html']);
  });

  it('is kept as a table and as a page, with what people typed written as text', async () => {
    await known(['/x.php?q=<b>"&', 3], ['/=1+1', 2]);
    await settle({ '/x.php?q=<b>"&': '/visit/' });
    const table = parseCsv((await house.owner.get<{ text: string }>(api('redirects/proof.csv'))).body.text, {
      bom: true,
      columns: true,
    });
    expect(table).toMatchObject([
      { 'Old address': '/x.php?q=%3Cb%3E%22&', Visits: '3', 'Draft: ends at': 'a page', 'Draft: address': '/visit/' },
      { 'Old address': '/=1+1', 'Draft: ends at': 'nothing' },
    ]);
    const page = (await house.owner.get<{ text: string }>(api('redirects/proof.html'))).body.text;
    const text = JSON.stringify(parseHtml(page), (key, value: unknown) => (key === 'parentNode' ? undefined : value));
    expect(text).toContain('"value":"/x.php?q=%3Cb%3E%22&"');
    expect(text).toContain('nothing is live that could be asked');
  });
});

describe('old domains', () => {
  it('are told apart once they are named; their rules are their own, and go out for their own server', async () => {
    expect(
      (await house.owner.post<{ host: string }>(api('old-domains'), { host: 'https://Old-Shop.example/x' })).body,
    ).toEqual({ host: 'old-shop.example' });
    await house.owner.post(api('old-addresses/pasted'), {
      text: 'https://old-shop.example/a.php\nhttps://elsewhere.example/a.php\n/b.php',
    });
    await house.owner.post(api('old-addresses/pasted'), { text: '/c.php', domain: 'old-shop.example' });
    expect((await rows()).map(({ from }) => from).sort()).toEqual([
      '//old-shop.example/a.php',
      '//old-shop.example/c.php',
      '/a.php',
      '/b.php',
    ]);
    await settle({ '//old-shop.example/a.php': '/visit/', '/a.php': '/about.html' });
    // Nothing is settled for it: it leads to the same address here, where nothing is.
    expect((await rows()).map(({ from, to: where, end }) => [from, where, end]).sort()).toEqual([
      ['//old-shop.example/a.php', '/visit/', 'page'],
      ['//old-shop.example/c.php', '/c.php', 'missing'],
      ['/a.php', '/about.html', 'page'],
      ['/b.php', null, 'missing'],
    ]);
    // So it is to be settled, as much as the site's own; one that leads to a page is not.
    await house.owner.post(api('old-addresses/pasted'), { text: 'http://old-shop.example/about.html' });
    expect((await rows()).map(({ from, origin }) => [from, origin]).sort()).toEqual([
      ['//old-shop.example/a.php', 'decided'],
      ['//old-shop.example/about.html', 'page'],
      ['//old-shop.example/c.php', 'open'],
      ['/a.php', 'decided'],
      ['/b.php', 'open'],
    ]);
    expect(await house.owner.overview(site)).toMatchObject({ oldAddresses: 5, oldAddressesWithRule: 3 });
    const own =
      (await house.owner.get<ExportedRules>(api('redirects/files?form=csv&domain=old-shop.example'))).body.files[0]
        ?.text ?? '';
    expect(own).toMatch(/\/a\.php,301,http:\/\/[a-z0-9.-]+(?::\d+)?\/visit\//);
    expect(own).not.toContain('about.html');
    expect((await house.owner.get<ExportedRules>(api('redirects/files?form=csv'))).body.files[0]?.text).not.toContain(
      'old-shop',
    );
    const unknown = await house.owner.decide(site, { kind: 'redirect', from: '//nobody.example/x', to: to('/visit/') });
    expect([unknown.status, unknown.body.error?.code]).toEqual([422, 'old-domain-unknown']);
    expect(
      (await house.owner.post<{ error: { code: string } }>(api('old-domains'), { host: 'no dots' })).body.error.code,
    ).toBe('name-unreadable');
    await house.owner.send('DELETE', api('old-domains?host=old-shop.example'));
    expect((await house.owner.get<string[]>(api('old-domains'))).body).toEqual([]);
  });
});

describe('redirects in files', () => {
  const send = (name: string, text: string | Uint8Array, more = '') =>
    house.owner.send<RulesRead & { error?: { code: string; message: string } }>(
      'POST',
      api(`redirects/files?fileName=${name}${more}`),
      typeof text === 'string' ? Buffer.from(text) : text,
      { 'content-type': 'application/octet-stream' },
    );

  it('are read with what each would change, and taken in one step', async () => {
    await settle({ '/same.php': '/visit/', '/other.php': '/visit/' });
    const { body } = await send(
      'redirects.csv',
      'Old;New;Status\n/same.php;/visit/;301\n/other.php;/about.html;\n/fresh.php;/about.html;308\n/visit/;/about.html;301\n/dead.php;/nothing/;302\n/bad.php;javascript:alert(1);301\n;;\n/gone.php;;410\n',
    );
    expect(body.form).toBe('table');
    expect(body.rules.map(({ from, state }) => [from, state])).toEqual([
      ['/same.php', 'same'],
      ['/other.php', 'differs'],
      ['/fresh.php', 'new'],
      ['/visit/', 'page'],
      ['/dead.php', 'dead'],
      ['/gone.php', 'new'],
    ]);
    expect(body.notRead).toMatchObject([{ line: 7 }]);
    expect((await rows()).map(({ from }) => from).sort()).toEqual(['/other.php', '/same.php']);
  });

  it.each([
    [
      'site.htaccess',
      'Redirect 301 /a.php /visit/\nRewriteRule ^news/(.*)$ /sky/$1 [R=301,L]\n',
      'apache',
      ['/a.php', '/news/(.*)'],
    ],
    [
      'old.conf',
      'location = /a.php { return 301 /visit/; }\nrewrite ^/news/(.*)$ /sky/$1 permanent;\n',
      'nginx',
      ['/a.php', '/news/(.*)'],
    ],
    ['rules.txt', '/a.php /visit/\n/b.php /about.html\n', 'apache', ['/a.php', '/b.php']],
  ])('%s is known by what it says, patterns among it', async (name, text, form, froms) => {
    const { body } = await send(name, text);
    expect([body.form, body.rules.map(({ from }) => from), body.notRead]).toEqual([form, froms, []]);
    const settled = body.rules
      .filter(({ isPattern }) => !isPattern)
      .map(({ from, to: where }) => ({ from, to: to(where ?? '') }));
    const patterns = body.rules
      .filter(({ isPattern }) => isPattern)
      .map(({ from, to: target, status, ignoreCase, dropsQuery }) => ({
        text: from,
        status,
        target,
        ignoreCase,
        dropsQuery,
      }));
    expect((await house.owner.decide(site, { kind: 'redirects', settle: settled, remove: [], patterns })).status).toBe(
      201,
    );
    expect((await send(name, text)).body.rules.map(({ state }) => state)).toEqual(froms.map(() => 'same'));
  });

  it('that are none are refused, with what to do', async () => {
    expect((await send('log.bin', new Uint8Array([0, 1, 2, 0, 255]))).body.error).toMatchObject({
      code: 'rules-unreadable',
    });
    expect((await send('prices.csv', 'Lamp,3\nChair,4\n')).body.error?.message).toContain('call them From and To');
    expect((await send('empty.txt', '')).body.error?.code).toBe('rules-unreadable');
  });

  it('are written in every form, and read back from the table as they are', async () => {
    await settle({ '/a.php': '/visit/', '/caf%C3%A9': '/about.html' });
    await house.owner.decide(site, {
      kind: 'pattern',
      id: null,
      text: '/news/*',
      status: 301,
      target: '/sky/:0',
      ignoreCase: true,
      dropsQuery: false,
    });
    for (const form of ['nginx', 'apache-map', 'apache-lines', 'csv', 'json', 'pages']) {
      const { body } = await house.owner.get<ExportedRules>(api(`redirects/files?form=${form}`));
      expect([form, body.rules]).toEqual([form, 3]);
      expect(body.files.length + body.leftOut.length).toBeGreaterThan(0);
    }
    const { files } = (await house.owner.get<ExportedRules>(api('redirects/files?form=csv'))).body;
    expect(
      (await send('redirects.csv', files[0]?.text ?? '')).body.rules.map(({ from, state }) => [from, state]).sort(),
    ).toEqual([
      ['/a.php', 'same'],
      ['/caf%C3%A9', 'same'],
      ['/news/*', 'same'],
    ]);
  });
});
