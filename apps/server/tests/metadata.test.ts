/** Metadata through the API: set, inherited, published, read back. Sites and names are invented. */
import { mend as mendLabel } from '@fastigium/core/checks';
import { speak } from '../src/words.ts';
import type { Metadata, PageHead, TableReading } from '@fastigium/contracts/api/metadata';
import type { Snags } from '@fastigium/contracts/api/snags';
import decodeIco from 'decode-ico';
import sharp from 'sharp';
import { parse } from 'csv-parse/sync';
import { chmod, readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { compileDraft } from '../src/features/draft/compileDraft.ts';
import { readEntries } from '../src/features/shared/manifests.ts';
import { readContent } from '../src/features/shared/contents.ts';
import { checkDraft } from '../src/features/snags/checkDraft.ts';
import { openHouse, zip, type House } from './harness.ts';

const html = (title: string, more = '', language = 'en', body = '') =>
  `<!DOCTYPE html>\n<html lang="${language}">\n<head>\n  <meta charset="utf-8">\n  <title>${title} · Moor</title>\n${more}</head>\n<body>\n<main><h1>${title}</h1><p>The first paragraph of ${title}, which says what there is to be found on this page.</p>${body}</main>\n</body>\n</html>\n`;
const FILES = {
  'index.html': html('Home'),
  'visit/index.html': html('Visit', '  <meta name="author" content="Own Author">\n'),
  'visit/bus/index.html': html('By bus'),
  'cy/index.html': html('Hafan', '', 'cy'),
  'cy/visit/index.html': html('Ymweld', '', 'cy'),
  'news/index.html': html('News'),
  'news/dome/index.html': html('Dome', '', 'en', '<time datetime="2026-03-04">4 March</time>'),
  'secret/index.html': html('Secret', '  <meta name="robots" content="noindex">\n'),
  'robots.txt': 'User-agent: *\nDisallow: /own/\n',
  '404.html': html('Not found'),
};
const EVERYWHERE = { kind: 'everywhere' };

let house: House;
let site: string;
beforeAll(async () => {
  house = await openHouse();
  site = await house.owner.newSite('Moor');
  await house.owner.bringIn(site, await zip(FILES));
});
afterAll(() => house.stop());

const metadata = async () => (await house.owner.get<Metadata>(`/api/sites/${site}/metadata`)).body;
const row = async (address: string) => (await metadata()).rows.find((each) => each.address === address);
const head = async (address: string) =>
  (await house.owner.get<PageHead>(`/api/sites/${site}/metadata/pages/${(await house.owner.page(site, address)).id}`))
    .body;
const set = (...settings: object[]) =>
  house.owner.decide(site, { kind: 'head', settings: settings.map((each) => ({ own: null, ...each })) });
const on = (name: string) => ({ scope: EVERYWHERE, name, text: 'on' });
const scope = async (kind: 'page' | 'branch', address: string) => ({
  kind,
  page: (await house.owner.page(site, address)).id,
});
const fileOf = async (path: string) => {
  const { shards } = await compileDraft(house.server.deps, site);
  const entry = (await readEntries(house.server.deps.db, shards, [path])).get(path);
  return entry && { ...entry, text: (await readContent(house.server.deps.db, entry.hash)).toString() };
};
const upload = async <T>(path: string, bytes: Uint8Array | string, type = 'text/csv') =>
  house.owner.send<T>('POST', `/api/sites/${site}/${path}`, typeof bytes === 'string' ? Buffer.from(bytes) : bytes, {
    'content-type': type,
  });
/** The address that the last step back leaves nothing of. */
const back = () => house.owner.decide(site, { kind: 'step', direction: 'back' });

describe('settings', () => {
  it('go from the site down to pages, are written, and come back as they were', async () => {
    const before = (await fileOf('visit/bus/index.html'))?.hash;
    expect((await set({ scope: EVERYWHERE, name: 'meta:author', text: 'The site' })).status).toBe(201);
    const branch = await set({ scope: await scope('branch', '/visit/'), name: 'meta:author', text: 'The branch' });
    expect(speak(branch.body.message)).toBe('Metadata for /visit/ and below: author set to “The branch”');
    expect((await fileOf('index.html'))?.text).toBe(
      FILES['index.html'].replace('</title>', '</title>\n  <meta name="author" content="The site">'),
    );
    expect((await fileOf('visit/bus/index.html'))?.text).toContain('content="The branch"');
    // What the designer wrote is kept, and told.
    expect((await fileOf('visit/index.html'))?.text).toBe(FILES['visit/index.html']);
    const visit = await head('/visit/');
    expect(visit.lines.find(({ name }) => name === 'meta:author')).toEqual({
      name: 'meta:author',
      text: 'Own Author',
      from: 'imported',
      own: ['Own Author'],
      conflict: { text: 'The branch', from: 'branch' },
    });
    expect((await row('/visit/'))?.conflicts).toBe(1);
    expect(
      (await set({ scope: await scope('page', '/visit/'), name: 'meta:author', text: null, own: 'replaced' })).status,
    ).toBe(201);
    expect((await fileOf('visit/index.html'))?.text).toBe(
      FILES['visit/index.html'].replace('Own Author', 'The branch'),
    );
    expect((await head('/visit/')).draft.find(({ name }) => name === 'meta:author')).toEqual({
      source: '<meta name="author" content="The branch">',
      name: 'meta:author',
      from: 'branch',
    });
    for (let steps = 0; steps < 3; steps += 1) await back();
    expect((await fileOf('visit/bus/index.html'))?.hash).toBe(before);
  });

  it.each<[string, object, string]>([
    ['a language that is none', { scope: EVERYWHERE, name: 'language', text: 'english' }, 'no language tag'],
    ['a form without a page', { scope: EVERYWHERE, name: 'pattern', text: 'Moor' }, '{page}'],
    ['broken data', { scope: EVERYWHERE, name: 'data', text: '{"a":' }, 'not JSON'],
    ['code that never ends', { scope: EVERYWHERE, name: 'code:head', text: '<script>' }, 'never'],
    ['a colour that is none', { scope: EVERYWHERE, name: 'meta:theme-color', text: 'mud' }, 'no colour'],
    ['a line there is not', { scope: EVERYWHERE, name: 'meta:a b', text: 'x' }, 'no such line'],
    [
      'a security.txt without a contact',
      { scope: EVERYWHERE, name: 'security.txt', text: 'Expires: 2099-01-01T00:00:00Z' },
      'Contact is missing',
    ],
    ['a title for everybody', { scope: EVERYWHERE, name: 'title', text: 'x' }, 'each page'],
    ['a picture that is not there', { scope: EVERYWHERE, name: 'meta:og:image', text: '/no.png' }, 'no file'],
  ])('%s is refused in words, and nothing changes', async (_, setting, words) => {
    const { version } = await metadata();
    const answer = await set(setting);
    expect(answer.status).toBe(422);
    expect(answer.body.error?.message).toContain(words);
    expect((await metadata()).version).toBe(version);
  });

  it('a page that is not there is refused', async () =>
    expect(
      (await set({ scope: { kind: 'page', page: crypto.randomUUID() }, name: 'meta:author', text: 'x' })).status,
    ).toBe(404));
});

describe('the site under its own name', () => {
  beforeAll(async () => {
    await house.server.deps.db.run(
      `insert into domain (site_id, name, zone, role, connected_by, connected_at) select $1, 'moor.example', 'moor.example', 'own', id, now() from person limit 1`,
      [site],
    );
  });

  it('has canonical addresses and links between its languages, in both directions', async () => {
    await set(on('canonical'), on('alternates'), on('share'), on('breadcrumb'), on('article'));
    const links = async (path: string) =>
      [...((await fileOf(path))?.text ?? '').matchAll(/<link rel="alternate" hreflang="([^"]+)" href="([^"]+)">/g)].map(
        ([, tag, href]) => `${tag ?? ''} ${href ?? ''}`,
      );
    const [, main = ''] =
      /rel="canonical" href="(https:\/\/[^/]+)\/visit\/"/.exec((await fileOf('visit/index.html'))?.text ?? '') ?? [];
    expect(main).toMatch(/moor\.example$/);
    expect(await links('visit/index.html')).toEqual([
      `en ${main}/visit/`,
      `cy ${main}/cy/visit/`,
      `x-default ${main}/visit/`,
    ]);
    expect(await links('cy/visit/index.html')).toEqual(await links('visit/index.html'));
    expect(await links('news/index.html')).toEqual([]);
    expect((await fileOf('news/dome/index.html'))?.text).toContain('"@type": "Article"');
    const dome = await head('/news/dome/');
    expect(dome.dataProblems).toEqual([]);
    // What was written here is known among what the page brought itself.
    const data = dome.draft.filter(({ source }) => source.includes('application/ld+json'));
    expect(data.length).toBeGreaterThan(0);
    expect(data.every(({ from }) => from === 'computed')).toBe(true);
    // A name of its own again: what speaks of it follows without a decision.
    await house.server.deps.db.run(
      `update domain set name = 'fell.example', zone = 'fell.example' where site_id = $1`,
      [site],
    );
    expect((await fileOf('visit/index.html'))?.text).toContain('fell.example/visit/');
    await house.server.deps.db.run(
      `update domain set name = 'moor.example', zone = 'moor.example' where site_id = $1`,
      [site],
    );
  });

  it('has a sitemap of what may be found, with the day each page last changed', async () => {
    await set(on('sitemap'), { scope: EVERYWHERE, name: 'robots.txt', text: 'User-agent: *\nDisallow: /private/\n' });
    const text = (await fileOf('sitemap.xml'))?.text ?? '';
    expect([...text.matchAll(/<loc>https:\/\/[^/]+([^<]*)<\/loc>/g)].map(([, path]) => path).sort()).toEqual([
      '/',
      '/cy/',
      '/cy/visit/',
      '/news/',
      '/news/dome/',
      '/visit/',
      '/visit/bus/',
    ]);
    expect((await fileOf('robots.txt'))?.text).toMatch(
      /^User-agent: \*\nDisallow: \/private\/\n\nSitemap: https:\/\/[a-z.]*moor\.example\/sitemap\.xml\n$/,
    );
    await back();
    expect((await fileOf('robots.txt'))?.text).toBe(FILES['robots.txt']);
    expect(await fileOf('sitemap.xml')).toBeUndefined();
    await house.owner.decide(site, { kind: 'step', direction: 'forward' });
    expect((await house.owner.publish(site)).state).toBe('done');
    const published = await house.server.deps.db.many(
      'select path from pages_changed, unnest(paths) as page(path) where site_id = $1',
      [site],
    );
    expect(published.length).toBe(9);
    await house.server.deps.db.run(`update pages_changed set day = '2020-02-02' where site_id = $1`, [site]);
    await set({
      scope: await scope('page', '/visit/'),
      name: 'meta:description',
      text: 'By bus, on foot, or by a lift from the village.',
    });
    const days = Object.fromEntries(
      [
        ...((await fileOf('sitemap.xml'))?.text ?? '').matchAll(/<loc>https:\/\/[^/]+([^<]*)<\/loc><lastmod>([^<]*)</g),
      ].map(([, path, day]) => [path, day]),
    );
    expect(days['/visit/']).not.toBe('2020-02-02');
    expect(days['/']).toBe('2020-02-02');
  });

  it('heads are read back from the live host after a publish', async () => {
    const told = async () =>
      (await house.owner.changes(site)).changes.map(({ subject, message }) => `${speak(subject)}: ${speak(message)}`);
    expect(await told()).toContain('/visit/: in the head: description, share text');
    // The same on many pages is one line, and one step takes it back.
    await set({ scope: EVERYWHERE, name: 'meta:rating', text: 'general' });
    expect((await told()).filter((line) => line.includes('rating'))).toEqual([
      '/visit/: in the head: description, share text, rating',
      '8 pages: in the head: rating; nothing a visitor sees',
    ]);
    await back();
    expect((await house.owner.publish(site)).state).toBe('done');
    for (let tries = 0; tries < 200 && ((await metadata()).proof?.release ?? 0) < 2; tries += 1)
      await new Promise((resolve) => {
        setTimeout(resolve, 50);
      });
    expect((await metadata()).proof).toMatchObject({ release: 2, differing: [] });
    const { live, draft } = await head('/visit/');
    expect(live?.map(({ source }) => source)).toEqual(draft.map(({ source }) => source));
  });

  it('and a head that comes back otherwise is told', async () => {
    const description = 'By bus, on foot, or by a lift from the village.';
    const kept = (await readdir(house.hostFolder, { recursive: true, withFileTypes: true }))
      .filter((entry) => entry.isFile())
      .map((entry) => join(entry.parentPath, entry.name));
    let spoiled = 0;
    for (const file of kept) {
      const text = await readFile(file, 'utf8');
      if (!text.startsWith('<!DOCTYPE') || !text.includes(description)) continue;
      await chmod(file, 0o644);
      await writeFile(file, text.replace(description, 'Something else.'));
      spoiled += 1;
    }
    expect(spoiled).toBeGreaterThan(0);
    const before = (await metadata()).proof?.askedAt;
    const { body } = await house.owner.post<{ job: string }>(`/api/sites/${site}/inspection`);
    expect((await house.owner.ended(body.job)).state).toBe('done');
    const { proof } = await metadata();
    expect(proof?.askedAt).not.toBe(before);
    expect(proof?.differing.map(({ path }) => path)).toEqual(['visit/index.html']);
    expect(proof?.differing[0]?.problem).toMatchObject({
      code: 'head-proof.missing',
      parameters: { line: `<meta name="description" content="${description}">` },
    });
  });
});

describe('the table as CSV', () => {
  it('goes to a writer and comes back as one step', async () => {
    const answer = await fetch(`${house.owner.base}/api/sites/${site}/metadata/table.csv`, {
      headers: { cookie: house.owner.cookie },
    });
    const rows = parse(await answer.text(), { bom: true });
    const at = (rows[0] ?? []).indexOf('Description');
    for (const each of rows) {
      if (each[0] === '/news/') each[at] = 'What is new';
      if (each[0] === '/') each[at] = '=1+1';
    }
    const csv = [
      ...rows.map((each) => each.map((cell) => `"${cell.replaceAll('"', '""')}"`).join(';')),
      '"/nowhere/";"x"',
    ].join('\r\n');
    const reading = (await upload<TableReading>('metadata/table/reading', csv)).body;
    expect(reading.unknown).toEqual(['/nowhere/']);
    expect(reading.changes.map(({ address, after }) => [address, after])).toEqual([
      ['/', '=1+1'],
      ['/news/', 'What is new'],
    ]);
    const { version } = await metadata();
    expect((await upload(`metadata/table?version=${version - 1}`, csv)).status).toBe(409);
    expect((await upload(`metadata/table?version=${version}`, csv)).status).toBe(201);
    expect((await row('/news/'))?.description).toEqual({ text: 'What is new', from: 'page' });
    expect((await metadata()).version).toBe(version + 1);
    // The formula is only a text in the page, and no formula in the next table.
    expect((await fileOf('index.html'))?.text).toContain('content="=1+1"');
    expect(
      await (
        await fetch(`${house.owner.base}/api/sites/${site}/metadata/table.csv`, {
          headers: { cookie: house.owner.cookie },
        })
      ).text(),
    ).toContain("'=1+1");
    await back();
    expect((await row('/news/'))?.description.text).toBe('');
  });

  it.each<[string, Uint8Array | string, string]>([
    [
      'in another encoding',
      Uint8Array.from(Buffer.from('Address,Description\r\n/news/,Caf\xe9\r\n', 'latin1')),
      'Café',
    ],
    [
      'in UTF-16',
      Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from('Address\tDescription\r\n/news/\tCafé\r\n', 'utf16le')]),
      'Café',
    ],
  ])('%s it is read all the same', async (_, bytes, expected) =>
    expect((await upload<TableReading>('metadata/table/reading', bytes)).body.changes[0]?.after).toBe(expected),
  );

  it.each([
    ['no column of addresses', 'Title\r\nx\r\n'],
    ['a quote that never ends', 'Address,Title\r\n/,"x\r\n'],
    ['one bad cell', 'Address,Language\r\n/,english\r\n/news/,de\r\n'],
  ])('with %s nothing is taken', async (_, csv) => {
    const { version } = await metadata();
    expect((await upload(`metadata/table?version=${version}`, csv)).status).toBe(422);
    expect((await metadata()).version).toBe(version);
  });
});

describe('icons from one picture', () => {
  const picture = (width: number, height: number) =>
    sharp({ create: { width, height, channels: 4, background: '#1d756f' } })
      .png()
      .toBuffer();
  const send = async (bytes: Uint8Array, fileName = 'mark.png') =>
    upload<{ error?: { message: string } }>(
      `metadata/icons?version=${(await metadata()).version}&fileName=${fileName}`,
      bytes,
      'application/octet-stream',
    );

  it('are an ICO of three, PNGs and a manifest, and every page names them', async () => {
    expect((await send(await picture(600, 400))).status).toBe(201);
    const ico = await fileOf('favicon.ico');
    const bytes = await readContent(house.server.deps.db, ico?.hash ?? '');
    expect(decodeIco(bytes).map(({ width, height }) => [width, height])).toEqual([
      [16, 16],
      [32, 32],
      [48, 48],
    ]);
    expect(ico?.headers['content-type']).toMatch(/icon/);
    const manifest = JSON.parse((await fileOf('site.webmanifest'))?.text ?? '') as {
      name: string;
      icons: { src: string; sizes: string }[];
    };
    expect(manifest.name).toBe('Moor');
    for (const { src, sizes } of manifest.icons) {
      const { width, height } = await sharp(
        await readContent(house.server.deps.db, (await fileOf(src))?.hash ?? ''),
      ).metadata();
      expect(`${width}x${height}`).toBe(sizes);
    }
    expect((await fileOf('visit/index.html'))?.text).toContain('<link rel="manifest" href="/site.webmanifest">');
    expect((await house.owner.decide(site, { kind: 'icons-removed' })).status).toBe(201);
    expect(await fileOf('favicon.ico')).toBeUndefined();
    expect((await fileOf('visit/index.html'))?.text).not.toContain('manifest');
  });

  const svg = (inside: string) =>
    Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10">${inside}</svg>`);
  it('keep a drawing as a drawing', async () => {
    expect((await send(svg('<rect width="10" height="10" fill="teal"/>'), 'mark.svg')).status).toBe(201);
    expect((await fileOf('icon.svg'))?.text).toContain('<rect');
    await back();
  });

  it.each<[string, () => Promise<Uint8Array> | Uint8Array, string]>([
    ['nothing', () => new Uint8Array(), 'Nothing arrived'],
    ['words that say they are a picture', () => Buffer.from('GIF89a not really'), 'no picture'],
    [
      'a picture cut short',
      async () =>
        (
          await sharp({
            create: {
              width: 600,
              height: 600,
              channels: 3,
              background: '#808',
              noise: { type: 'gaussian', mean: 120, sigma: 60 },
            },
          })
            .png()
            .toBuffer()
        ).subarray(0, 9000),
      'damaged',
    ],
    ['one of 42 million pixels', () => picture(7000, 6000), 'million pixels'],
    ['a small one', () => picture(100, 100), 'only 100 by 100'],
    [
      'one that moves',
      async () =>
        sharp(
          [
            await picture(256, 256),
            await sharp(await picture(256, 256))
              .negate()
              .png()
              .toBuffer(),
          ],
          { join: { animated: true } },
        )
          .gif()
          .toBuffer(),
      'moves',
    ],
    ['a page', () => Buffer.from('<!DOCTYPE html><p>x'), 'no picture'],
    ['a drawing with script', () => svg('<script>alert(1)</script>'), '<script>'],
    ['a drawing with a handler', () => svg('<rect onload="x()"/>'), 'onload'],
    ['a drawing that loads something', () => svg('<image href="https://x.example/t.png"/>'), 'outside itself'],
    [
      'a drawing with entities',
      () => Buffer.from('<!DOCTYPE svg [<!ENTITY a "x">]><svg xmlns="http://www.w3.org/2000/svg">&a;</svg>'),
      'entities',
    ],
  ])('%s cannot become one, and is told why', async (_, make, words) => {
    const answer = await send(await make());
    expect(answer.status).toBe(422);
    expect(answer.body.error?.message).toContain(words);
  });
});

describe('snags of heads', () => {
  const snags = async () => {
    await checkDraft(house.server.deps, site);
    return (await house.owner.get<Snags>(`/api/sites/${site}/snags`)).body.snags;
  };
  const found = async (code: string) => (await snags()).filter((snag) => snag.code === code);
  const mend = async (key: string, answer = '') =>
    house.owner.post(`/api/sites/${site}/snags/${key}/mend`, { version: (await metadata()).version, answer });

  it('a page without a description takes its first paragraph in one step', async () => {
    const snag = (await found('description-missing')).find(({ path }) => path === 'visit/bus/index.html');
    expect(snag?.mend?.label).toEqual(mendLabel('take-paragraph'));
    expect((await mend(snag?.key ?? '')).status).toBe(201);
    expect((await row('/visit/bus/'))?.description).toEqual({
      text: 'The first paragraph of By bus, which says what there is to be found on this page.',
      from: 'page',
    });
    expect((await found('description-missing')).map(({ path }) => path)).not.toContain('visit/bus/index.html');
  });

  it('a conflict is told once, and what is set is used in one step', async () => {
    await set({ scope: EVERYWHERE, name: 'meta:author', text: 'The site' });
    const conflicts = await found('head-conflict');
    expect(conflicts.map(({ path, detail }) => [path, speak(detail)])).toEqual([
      ['visit/index.html', 'author: “Own Author” in the page, “The site” for the site'],
    ]);
    expect((await mend(conflicts[0]?.key ?? '')).status).toBe(201);
    expect(await found('head-conflict')).toEqual([]);
    expect((await fileOf('visit/index.html'))?.text).toContain('content="The site"');
  });

  it('a canonical address at which there is no page must be fixed, and a page robots.txt keeps out is told', async () => {
    await set(
      { scope: await scope('page', '/news/'), name: 'link:canonical', text: '/nowhere/' },
      { scope: EVERYWHERE, name: 'robots.txt', text: 'User-agent: *\nDisallow: /visit/' },
    );
    expect((await found('canonical-gone')).map(({ path, severity }) => [path, severity])).toEqual([
      ['news/index.html', 'must'],
    ]);
    expect((await found('sitemap-shut')).map(({ detail }) => detail).sort()).toEqual(['/visit/', '/visit/bus/']);
    await back();
    expect([...(await found('canonical-gone')), ...(await found('sitemap-shut'))]).toEqual([]);
  });

  it('a share picture that is too small is told once, however many pages have it', async () => {
    const { version } = await metadata();
    const small = await sharp({ create: { width: 640, height: 400, channels: 3, background: '#555' } })
      .png()
      .toBuffer();
    expect(
      (await upload(`assets?fileName=small.png&folder=pictures&version=${version}`, small, 'application/octet-stream'))
        .status,
    ).toBe(201);
    await set({ scope: EVERYWHERE, name: 'meta:og:image', text: '/pictures/small.png' });
    expect((await found('share-picture-small')).map(({ detail }) => speak(detail))).toEqual([
      '/pictures/small.png, 640 by 400 pixels',
    ]);
    await back();
    expect(await found('share-picture-small')).toEqual([]);
  });
});
