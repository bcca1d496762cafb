/** Whose changes they are, leaving some out of a release, and taking them back. */
import type { HistoryRow } from '@fastigium/contracts/api/draft';
import { speak } from '../src/words.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Cause, Change } from '@fastigium/contracts/api/releases';
import { addPerson } from '../src/features/people/people.ts';
import { newLiveSite, openHouse, type House } from './harness.ts';

let house: House;
let site: string;
const page = async (address: string) => (await house.owner.page(site, address)).id;
const causes = async () =>
  (await house.owner.get<{ causes: Cause[] }>(`/api/sites/${site}/changes/causes`)).body.causes;
const changes = async () => (await house.owner.get<{ changes: Change[] }>(`/api/sites/${site}/changes`)).body.changes;
const publish = async (leaveOut: readonly number[]) => {
  const { version } = await house.owner.overview(site);
  const asked = await house.owner.post<{ job: string }>(`/api/sites/${site}/releases`, { version, leaveOut });
  if (asked.status !== 202) return asked;
  await house.owner.ended(asked.body.job);
  return asked;
};
const body = async (path: string) => (await house.visit('moor.localhost', path)).body;

beforeAll(async () => {
  house = await openHouse();
  site = await newLiveSite(house, 'Moor');
});
afterAll(() => house.stop());

describe('each change', () => {
  it('is known by the decisions and people behind it', async () => {
    const { team } = await house.server.deps.db.one<{ team: string }>('select team_id as team from person limit 1');
    await addPerson(house.server.deps.db, team, {
      email: 'second@house.example',
      name: 'Bryn Lime',
      password: 'a password that is long enough',
      role: 'editor',
    });
    const second = house.client();
    await second.signIn('second@house.example', 'a password that is long enough');
    await house.owner.decide(site, { kind: 'title', page: await page('/visit/'), title: 'Come and see' });
    await second.decide(site, { kind: 'rename', page: await page('/welcome/'), address: '/start/' });
    await house.owner.decide(site, { kind: 'redirect', from: '/old', to: { status: 410 } });
    const [redirect, rename, title] = await causes();
    expect([title?.by?.name, rename?.by?.name]).toEqual(['Ada Stone', 'Bryn Lime']);
    expect(title?.changes).toContain('file:visit/index.html');
    expect(redirect?.changes).toEqual(['rule:/old']);
    // The page at its new address, its redirect, and the page that links to it.
    expect(rename?.changes).toEqual(
      expect.arrayContaining(['file:start/index.html', 'rule:/welcome/', 'file:visit/index.html']),
    );
    const known = new Set([redirect, rename, title].flatMap((cause) => cause?.changes ?? []));
    expect((await changes()).filter(({ key }) => !known.has(key))).toEqual([]);
  });

  it('is put down to no step that only had its page compiled again', async () => {
    const other = await newLiveSite(house, 'Bytes');
    const at = `/api/sites/${other}/changes`;
    const home = await house.owner.page(other, '/');
    await house.owner.decide(other, { kind: 'title', page: home.id, title: 'Quite another title' });
    const visit = await house.owner.page(other, '/visit/');
    // Held back and shown again: the home page that links to it is compiled again, and comes out as it was.
    await house.owner.decide(other, { kind: 'ready', page: visit.id, ready: false });
    await house.owner.decide(other, { kind: 'ready', page: visit.id, ready: true });
    await house.owner.decide(other, {
      kind: 'redirect',
      from: '/seen',
      to: { status: 302, target: { kind: 'page', page: visit.id } },
    });
    const { body: said } = await house.owner.get<{ causes: Cause[] }>(`${at}/causes`);
    const { body: listed } = await house.owner.get<{ changes: Change[] }>(at);
    expect(listed.changes.map(({ key }) => key).sort()).toEqual(['file:index.html', 'rule:/seen']);
    const [redirect, shown, held, title] = said.causes.map(({ changes: made }) => made);
    expect({ redirect, shown, held, title }).toEqual({
      redirect: ['rule:/seen'],
      shown: [],
      held: [],
      title: ['file:index.html'],
    });
  });

  it('that was taken back since has no decision any more', async () => {
    const before = (await causes()).length;
    await house.owner.decide(site, { kind: 'title', page: await page('/'), title: 'For a moment' });
    await house.owner.decide(site, { kind: 'step', direction: 'back' });
    expect((await causes()).length).toBe(before);
  });
});

describe('left out of a release', () => {
  it('it stays in the draft, visitors do not get it, and it is what the next release is about', async () => {
    const [, rename] = await causes();
    await publish([rename?.seq ?? 0]);
    expect(await body('/visit/')).toContain('<title>Come and see</title>');
    expect((await house.visit('moor.localhost', '/welcome/')).status).toBe(200);
    expect((await house.visit('moor.localhost', '/start/')).status).toBe(404);
    expect((await house.visit('moor.localhost', '/old')).status).toBe(410);
    // In the draft as before.
    expect((await house.owner.page(site, '/start/')).title).toContain('Welcome');
    expect((await changes()).map(({ subject }) => subject)).toContain('/start/');
    expect((await changes()).map(({ subject }) => subject)).not.toContain('/old');
    const [still, out] = (await house.owner.get<{ rows: HistoryRow[] }>(`/api/sites/${site}/history`)).body.rows;
    expect([still?.message.code, out?.message.code]).toEqual(['decision.in-draft', 'decision.left-out']);
    // Both name what was decided at first, once.
    expect([still && speak(still.message), out && speak(out.message)]).toEqual([
      'Still in the draft: /welcome/ becomes /start/',
      'Left out of a release: /welcome/ becomes /start/',
    ]);
  });

  it('goes out with the next one', async () => {
    await publish([]);
    expect((await house.visit('moor.localhost', '/start/')).status).toBe(200);
  });

  it('what is no decision, or was taken back, is refused and nothing changes', async () => {
    await house.owner.decide(site, { kind: 'title', page: await page('/'), title: 'Front' });
    const before = (await house.owner.overview(site)).version;
    expect(await publish([9999])).toMatchObject({ status: 422 });
    expect((await house.owner.overview(site)).version).toBe(before);
    expect((await house.owner.releases(site))[0]?.state).toBe('live');
  });
});
