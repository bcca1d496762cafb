/** Snags through the API: found, seen in the source, mended in one step, dismissed under a name, holding a release. */
import type { Part } from '@fastigium/core/messages';
import { speak } from '../src/words.ts';
import type { Snags } from '@fastigium/contracts/api/snags';
import type { SourcePlace } from '@fastigium/contracts/api/imports';
import { surveySite } from '@fastigium/core/checks';
import { createHash } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { checkDraft } from '../src/features/snags/checkDraft.ts';
import { openHouse, zip, type House } from './harness.ts';
import { demoFiles } from './pages.files.ts';

let house: House;
let site: string;
const FAULTY =
  '<!DOCTYPE html><html><head><title>Faulty</title></head><body><main><h3>Deep</h3><p style="color:#999;background:#fff">Lorem ipsum dolor</p><img src="/pictures/moon.png"><a href="https://staging.moor.test/">test copy</a><a target=_blank href="https://elsewhere.example/">away</a><a href="/visit/#nowhere">part</a></main></body></html>';

beforeAll(async () => {
  house = await openHouse();
  site = await house.owner.newSite('Lanternmoor');
  await house.owner.bringIn(
    site,
    await zip({ ...demoFiles(), 'faulty.html': FAULTY, '.env': 'SECRET=1', 'old/index.html~': 'x' }),
  );
  await checkDraft(house.server.deps, site);
}, 120_000);
afterAll(() => house.stop());

const list = async () => {
  await checkDraft(house.server.deps, site);
  return (await house.owner.get<Snags>(`/api/sites/${site}/snags`)).body;
};
const codesOf = ({ snags }: Snags, path: string) =>
  snags
    .filter((snag) => snag.path === path)
    .map(({ code }) => code)
    .sort();
const keyOf = ({ snags }: Snags, code: string, path: string) =>
  snags.find((snag) => snag.code === code && snag.path === path)?.key ?? '';
const mend = async (key: string, answer = '') => {
  const { version } = await house.owner.overview(site);
  return house.owner.post<{ error?: { code: string } }>(`/api/sites/${site}/snags/${key}/mend`, {
    version,
    answer,
  });
};

describe('what the checks find in a draft', () => {
  it('is what the same checks find over the files at hand', async () => {
    const { snags, isCurrent } = await list();
    expect(isCurrent).toBe(true);
    const files = Object.entries({
      ...demoFiles(),
      'faulty.html': FAULTY,
      '.env': 'SECRET=1',
      'old/index.html~': 'x',
    }).map(([path, content]) => {
      const bytes = Buffer.from(content);
      return { path, bytes, hash: createHash('sha256').update(bytes).digest('hex') };
    });
    const short = (each: { code: string; detail: Part }, path: string) => `${each.code} ${path} ${speak(each.detail)}`;
    expect(snags.map((snag) => short(snag, snag.path)).sort()).toEqual(
      surveySite(files)
        .map((snag) => short(snag, snag.file))
        .sort(),
    );
    expect(snags.length).toBeGreaterThan(15);
  });

  it('names each fault of a faulty page', async () => {
    expect(codesOf(await list(), 'faulty.html')).toEqual([
      'alt-missing',
      'anchor-dead',
      'charset-missing',
      'contrast-low',
      'description-missing',
      'heading-order',
      'language-missing',
      'link-staging',
      'new-window-opener',
      'page-orphan',
      'picture-dimensions',
      'sample-text',
      'viewport-missing',
    ]);
  });

  it('is shown at its very place', async () => {
    const found = await list();
    const place = (
      await house.owner.get<SourcePlace>(
        `/api/sites/${site}/snags/${keyOf(found, 'link-staging', 'faulty.html')}/place`,
      )
    ).body;
    const line = place.lines.find(({ mark }) => mark);
    expect(line?.text.slice(line.mark?.start, line.mark?.end)).toBe('href="https://staging.moor.test/"');
  });
});

describe('mending in one step', () => {
  it('takes the snag away, and a step back brings it again', async () => {
    for (const [code, answer] of [
      ['picture-dimensions', ''],
      ['alt-missing', 'The full Moon'],
      ['new-window-opener', ''],
      ['viewport-missing', ''],
      ['charset-missing', ''],
      ['language-missing', 'en'],
    ] as const) {
      const key = keyOf(await list(), code, 'faulty.html');
      expect((await mend(key, answer)).status, code).toBe(201);
      expect(codesOf(await list(), 'faulty.html'), code).not.toContain(code);
    }
    expect(codesOf(await list(), 'faulty.html')).toEqual([
      'anchor-dead',
      'contrast-low',
      'description-missing',
      'heading-order',
      'link-staging',
      'page-orphan',
      'sample-text',
    ]);
    await house.owner.decide(site, { kind: 'step', direction: 'back' });
    expect(codesOf(await list(), 'faulty.html')).toContain('language-missing');
    expect((await mend(keyOf(await list(), 'language-missing', 'faulty.html'), 'Welsh <b>')).body.error?.code).toBe(
      'language-unreadable',
    );
    expect((await mend(keyOf(await list(), 'sample-text', 'faulty.html'))).body.error?.code).toBe('snag-not-mendable');
  });
});

describe('what must be fixed', () => {
  it('holds a release until somebody takes it on their name', async () => {
    const { version, snags } = await house.owner.overview(site);
    expect(snags.must).toBe(7);
    const refused = await house.owner.post<{ error: { code: string; message: string } }>(
      `/api/sites/${site}/releases`,
      { version },
    );
    expect(refused.body.error).toMatchObject({
      code: 'snags-hold',
      message: expect.stringContaining('7 must be fixed'),
    });
    const found = await list();
    expect(
      (await house.owner.put(`/api/sites/${site}/snags/${found.snags[0]?.key}/dismissal`, { reason: '' })).status,
    ).toBe(400);
    for (const { key } of found.snags.filter(({ severity }) => severity === 'must')) {
      expect(
        (await house.owner.put(`/api/sites/${site}/snags/${key}/dismissal`, { reason: 'The client knows of it' }))
          .status,
      ).toBe(200);
    }
    expect((await house.owner.overview(site)).snags).toMatchObject({ must: 0, dismissed: 7 });
    expect((await list()).snags.find(({ code }) => code === 'file-secret')?.dismissed).toMatchObject({
      reason: 'The client knows of it',
      by: { name: 'Ada Stone' },
    });
    expect((await house.owner.publish(site)).state).toBe('done');
    await house.owner.send('DELETE', `/api/sites/${site}/snags/${keyOf(found, 'file-secret', '.env')}/dismissal`);
    expect((await house.owner.overview(site)).snags.must).toBe(1);
  });

  it('stays dismissed where it was told by its words before, and is a message now', async () => {
    const snag = (await list()).snags.find(({ code, path }) => code === 'heading-order' && path === 'faulty.html');
    expect(snag?.detail).toMatchObject({ code: 'snag.heading-first' });
    // As such a key was made: of the code, the page and the words, and how many before it had the same.
    const words = JSON.stringify([snag?.code, snag?.page, speak(snag?.detail ?? '')]);
    const before = createHash('sha256').update(`${words} 0`).digest('hex').slice(0, 24);
    await house.owner.put(`/api/sites/${site}/snags/${snag?.key}/dismissal`, { reason: 'Served with a header' });
    const { db } = house.server.deps;
    const moved = await db.many('update snag_dismissal set key = $1 where key = $2 and site_id = $3 returning key', [
      before,
      snag?.key,
      site,
    ]);
    expect(moved).toEqual([{ key: before }]);
    // Found anew, and not merely kept from the check before.
    await db.run('delete from check_state where site_id = $1', [site]);
    expect((await list()).snags.find(({ key }) => key === snag?.key)?.dismissed?.reason).toBe('Served with a header');
  });

  it('stays dismissed while the page moves', async () => {
    const faulty = await house.owner.page(site, '/faulty.html');
    await house.owner.decide(site, { kind: 'rename', page: faulty.id, address: '/moved.html' });
    expect(
      (await list()).snags
        .filter(({ path, severity }) => path === 'moved.html' && severity === 'must')
        .every(({ dismissed }) => dismissed),
    ).toBe(true);
    await house.owner.decide(site, { kind: 'step', direction: 'back' });
    await list();
  });
});

describe('checking again', () => {
  it('comes to the same step by step as from nothing, and reads only what differs', async () => {
    const { deps } = house.server;
    const visit = await house.owner.page(site, '/visit/');
    const decisions = [
      { kind: 'title', page: visit.id, title: 'The observatory · Lanternmoor Observatory' },
      { kind: 'rename', page: visit.id, address: '/plan/' },
      { kind: 'ready', page: visit.id, ready: false },
      { kind: 'step', direction: 'back' },
      { kind: 'redirect', from: '/nowhere/', to: { status: 301, target: { kind: 'page', page: visit.id } } },
      { kind: 'address-style', style: 'html' },
      { kind: 'step', direction: 'back' },
      { kind: 'redirect', from: '/visit/picnic/', to: { status: 301, target: { kind: 'page', page: visit.id } } },
    ];
    const rows = async () =>
      await deps.db.many<{ key: string; detail: string; span: number | null }>(
        'select key, detail, span_start as span from snag where site_id = $1 order by key',
        [site],
      );
    for (const decision of decisions) {
      expect((await house.owner.decide(site, decision)).status, JSON.stringify(decision)).toBe(201);
      const { version: before } = await deps.db.one<{ version: number }>(
        'select version from check_state where site_id = $1',
        [site],
      );
      const { pagesRead } = await checkDraft(deps, site);
      if (decision.kind === 'title' && before > 0) expect(pagesRead).toBeLessThanOrEqual(1);
      const step = await rows();
      await deps.db.run('delete from check_state where site_id = $1', [site]);
      await deps.db.run('delete from snag where site_id = $1', [site]);
      await deps.db.run('delete from page_fact where site_id = $1', [site]);
      await checkDraft(deps, site);
      expect(await rows(), JSON.stringify(decision)).toEqual(step);
    }
  });
});
