/** A live release asked for from outside, and the report of it; against the host stand-in. Sites and names are invented. */
import type { Change } from '@fastigium/contracts/api/releases';
import { speak } from '../src/words.ts';
import type { Inspection } from '@fastigium/contracts/api/inspection';
import { readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createLiveReader } from '../src/adapters/web/liveReader.ts';
import { askAll } from '../src/features/inspection/ask.ts';
import { letBe, openHouse, SMALL_SITE, zip, type House } from './harness.ts';

let house: House;
let site: string;

beforeAll(async () => {
  house = await openHouse();
  site = await house.owner.newSite('Moor');
  await house.owner.bringIn(
    site,
    await zip({
      ...SMALL_SITE,
      'robots.txt': 'User-agent: *\nDisallow:\n',
      'dump.sql': 'create table visitor (name text);\n',
    }),
  );
  await house.owner.decide(site, {
    kind: 'redirect',
    from: '/page.php?id=3',
    to: { status: 301, target: { kind: 'page', page: (await house.owner.page(site, '/visit/')).id } },
  });
  await letBe(house, site);
});
afterAll(() => house.stop());

const inspection = async (number: number) =>
  (await house.owner.get<{ inspection: Inspection | null }>(`/api/sites/${site}/releases/${number}/inspection`)).body
    .inspection;

/** After the job that follows each publish. */
async function inspected(number: number): Promise<Inspection> {
  for (let tries = 0; tries < 400; tries += 1) {
    const found = await inspection(number);
    if (found) return found;
    await new Promise((resolve) => {
      setTimeout(resolve, 50);
    });
  }
  throw new Error(`release ${number} was never looked at`);
}

async function inspectAgain(number: number): Promise<Inspection> {
  const { body, status } = await house.owner.post<{ job: string }>(`/api/sites/${site}/inspection`);
  expect(status).toBe(202);
  expect((await house.owner.ended(body.job)).state).toBe('done');
  return inspected(number);
}

/** Spoils what the host keeps, as a broken disk or a stranger does. */
async function spoil(words: string, change: (file: string, text: string) => Promise<void>): Promise<void> {
  const kept = (await readdir(join(house.hostFolder, 'contents'), { recursive: true, withFileTypes: true }))
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name));
  for (const file of kept) {
    const text = await readFile(file, 'utf8');
    if (text.includes(words)) await change(file, text);
  }
}

describe('after a publish', () => {
  it('there is nothing to ask before', async () => {
    expect(await house.owner.post(`/api/sites/${site}/inspection`)).toMatchObject({
      status: 409,
      body: { error: { code: 'nothing-live' } },
    });
    expect(await house.owner.get(`/api/sites/${site}/releases/1/inspection`)).toMatchObject({
      status: 404,
      body: { error: { code: 'release-not-kept' } },
    });
  });

  it('home, all pages, old addresses, files and what machines read are asked for, by themselves', async () => {
    expect((await house.owner.publish(site)).state).toBe('done');
    const found = await inspected(1);
    expect(found).toMatchObject({ verdict: 'right', findings: [], before: null, unasked: 0 });
    expect(Object.fromEntries(found.results.map(({ aspect, asked }) => [aspect, asked]))).toEqual({
      home: 1,
      pages: 2,
      'old addresses': 1,
      files: 3,
      'not found': 1,
      machines: 1,
      types: 7,
      caching: 7,
      security: 1,
    });
    expect((await house.owner.releases(site))[0]).toMatchObject({ number: 1, verdict: 'right' });
  });

  it('a page that is not what was published, and a file that is gone, are told, worst first, and the release before is named', async () => {
    await house.owner.decide(site, {
      kind: 'title',
      page: (await house.owner.page(site, '/visit/')).id,
      title: 'Come and see',
    });
    await letBe(house, site);
    expect((await house.owner.publish(site)).state).toBe('done');
    await inspected(2);
    await spoil('Come and see', (file, text) => writeFile(file, text.replace('Come and see', 'Come and buy')));
    await spoil('not really a picture', (file) => rm(file));
    await house.restartHost();
    const found = await inspectAgain(2);
    expect(found).toMatchObject({ verdict: 'wrong', before: 1 });
    expect(found.findings.map(({ aspect, address, message }) => `${aspect} ${address} ${speak(message)}`)).toEqual(
      expect.arrayContaining([
        'pages /visit/ shows something else than was published',
        'files /paper.png answers 404',
        'old addresses /page.php?id=3 shows something else than was published',
      ]),
    );
    expect(found.results.find(({ aspect }) => aspect === 'pages')).toEqual({
      aspect: 'pages',
      asked: 2,
      wrong: 1,
      notes: 0,
    });
  });

  it('and going back to it is looked at in turn', async () => {
    const { body } = await house.owner.post<{ job: string }>(`/api/sites/${site}/releases/1/rollback`);
    expect((await house.owner.ended(body.job)).state).toBe('done');
    const found = await inspected(3);
    // The picture is still gone from the host's disk.
    expect(found.findings.map(({ address }) => address)).toEqual(['/paper.png']);
  });

  it('a host that does not answer is told as such', async () => {
    const entry = { path: 'index.html', hash: 'a'.repeat(64), sizeBytes: 1, headers: {} };
    // Port 1 of this machine: nothing listens there.
    const { findings, pages } = await askAll(
      createLiveReader({ endpointOf: (address, port) => Promise.resolve({ address, port }) }),
      { questions: [{ aspect: 'home', address: '/', entry }], unasked: 0, nowhere: undefined },
      new URL('http://127.0.0.1:1/'),
      {
        notFoundHash: undefined,
        hstsSeconds: null,
        entrance: { admit: () => ({ kind: 'everyone' }), headersFor: () => ({}) },
      },
      { signal: new AbortController().signal, report: () => {} },
    );
    expect(findings).toEqual([
      {
        aspect: 'home',
        address: '/',
        message: {
          code: 'finding.no-answer',
          parameters: { reason: expect.stringContaining('ECONNREFUSED') as string },
        },
        weight: 'wrong',
      },
    ]);
    expect(pages).toEqual([
      { path: 'index.html', status: undefined, body: undefined, problem: expect.stringContaining('ECONNREFUSED') },
    ]);
  });
});

describe('the report', () => {
  const report = async (number: number) =>
    fetch(`${house.owner.base}/api/sites/${site}/releases/${number}/report.html`, {
      headers: { cookie: house.owner.cookie },
    });

  it('says what went out, what was found, and what was taken on a name, and needs nothing else', async () => {
    const answer = await report(2);
    expect(answer.headers.get('content-disposition')).toBe('attachment; filename=release-2.html');
    const page = await answer.text();
    expect(page).toContain('<h1>Moor: release 2</h1>');
    expect(page).toContain('title “Visit” becomes “Come and see”');
    expect(page).toContain('<code>/paper.png</code></td><td>answers 404');
    expect(page).toContain('Known here</td><td>Ada Stone');
    expect(page).toContain('<html lang="en-GB">');
    expect(page).toMatch(/<td>Pages<\/td><td>[^<]*<\/td><td>title “Visit” becomes/);
    expect(page).not.toMatch(/<(script|link|img)|https?:\/\/(?!moor\.localhost)/);
  });

  it('keeps what was true then', async () => {
    expect(await (await report(1)).text()).toContain('Everything that was asked for is as it was published');
  });

  it('of a release that was not looked at there is none', async () => {
    await house.server.deps.db.run(
      'delete from inspection where release_id in (select id from release where site_id = $1 and number = 3)',
      [site],
    );
    expect(await (await report(3)).json()).toMatchObject({ error: { code: 'not-inspected' } });
  });
});

describe('any two releases', () => {
  const compare = async (before: number, after: number) =>
    house.owner.get<{
      changes: Change[];
      error?: { code: string };
    }>(`/api/sites/${site}/releases/compare?before=${before}&after=${after}`);

  it('are told like live and draft, with the evidence, in either order', async () => {
    expect((await compare(1, 2)).body.changes).toMatchObject([
      {
        group: 'pages',
        subject: '/visit/',
        message: { code: 'change.page-title', parameters: { before: 'Visit', after: 'Come and see' } },
      },
    ]);
    expect((await compare(2, 1)).body.changes).toMatchObject([
      { message: { code: 'change.page-title', parameters: { before: 'Come and see', after: 'Visit' } } },
    ]);
    expect((await compare(1, 3)).body.changes).toEqual([]);
    const { body } = await house.owner.get<{ lines: { sign: string; text: string }[] }>(
      `/api/sites/${site}/changes/evidence?key=${encodeURIComponent('file:visit/index.html')}&before=1&after=2`,
    );
    expect(
      body.lines
        .filter(({ sign }) => sign === '+')
        .map(({ text }) => text)
        .join(''),
    ).toContain('Come and see');
  });

  it('what was told once is not reckoned again, and is the same', async () => {
    const { kept } = await house.server.deps.db.one<{ kept: number }>(
      'select count(*)::int as kept from page_difference',
    );
    expect(kept).toBeGreaterThan(0);
    const before = (await compare(1, 2)).body;
    await house.server.deps.db.run(`update page_difference set change = jsonb_set(change, '{textPlaces}', '77')`);
    expect((await compare(1, 2)).body.changes.map(({ message }) => speak(message))).toEqual([
      'title “Visit” becomes “Come and see”; text in 77 places',
    ]);
    await house.server.deps.db.run('delete from page_difference');
    expect((await compare(1, 2)).body).toEqual(before);
  });

  it('one that is not kept is said', async () =>
    expect(await compare(1, 99)).toMatchObject({ status: 404, body: { error: { code: 'release-not-kept' } } }));
});

describe('the ways home', () => {
  const PAGES = { '': 'Home', visit: 'Visit', garden: 'Garden' };
  const page = (title: string) =>
    `<!DOCTYPE html><html lang="en"><head><title>${title}</title></head><body><nav><a href="/"><img src="/logo.png" alt="Marsh"></a><ul>${Object.entries(
      PAGES,
    )
      .map(([at, label]) => `<li><a href="/${at === '' ? '' : `${at}/`}">${label}</a></li>`)
      .join('')}</ul></nav><main><h1>${title}</h1><p>Words about ${title}.</p></main></body></html>`;

  it('are asked for what they give, and one that leads elsewhere is told with its page', async () => {
    const marsh = await house.owner.newSite('Marsh');
    const files = Object.keys(PAGES).map((at) => [`${at === '' ? '' : `${at}/`}index.html`, page(`Marsh ${at}`)]);
    await house.owner.bringIn(marsh, await zip({ ...Object.fromEntries(files), 'logo.png': 'not really a picture' }));
    await letBe(house, marsh);
    // Another page becomes home: every Home and the logo lead to the root, where it is.
    await house.owner.decide(marsh, { kind: 'home', page: (await house.owner.page(marsh, '/garden/')).id });
    await letBe(house, marsh);
    await house.owner.publish(marsh);
    const of = async () => {
      const { body } = await house.owner.post<{ job: string }>(`/api/sites/${marsh}/inspection`);
      expect((await house.owner.ended(body.job)).state).toBe('done');
      return (await house.owner.get<{ inspection: Inspection }>(`/api/sites/${marsh}/releases/1/inspection`)).body
        .inspection;
    };
    const right = await of();
    expect(right.findings.filter(({ aspect }) => aspect === 'home')).toEqual([]);
    // The root itself, the logo, and Home.
    expect(right.results.find(({ aspect }) => aspect === 'home')?.asked).toBe(3);
    await spoil('Words about Marsh visit', (file, text) =>
      writeFile(file, text.replace('<li><a href="/">', '<li><a href="/visit/">')),
    );
    await house.restartHost();
    const [found, ...more] = (await of()).findings.filter(({ aspect }) => aspect === 'home');
    expect(more).toEqual([]);
    expect(found).toMatchObject({ address: '/visit/', weight: 'wrong' });
    expect(found && speak(found.message)).toBe(
      'does not lead home: its “Home” goes to /visit/, which is not the home page, /',
    );
  });
});
