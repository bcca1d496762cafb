/** Releases that go out at a set time, by the world's clock. Sites and names are invented. */
import type { Notice } from '@fastigium/contracts/api/removals';
import type { NoticeMessage } from '@fastigium/contracts/messages/notice';
import { speak } from '../src/words.ts';
import type { Cause } from '@fastigium/contracts/api/releases';
import type { SetTime } from '@fastigium/contracts/api/setTime';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { letBe, openHouse, SMALL_SITE, zip, type House } from './harness.ts';

let house: House;
let site: string;
let count = 0;
const MINUTE_MS = 60_000;

beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.stop());
beforeEach(async () => {
  site = await house.owner.newSite(`Set time ${(count += 1)}`);
  await house.owner.bringIn(site, await zip(SMALL_SITE));
  await letBe(house, site);
});

const nowMs = () => house.server.deps.world.clock.nowMs();
const runOn = (minutes: number) => house.owner.post('/api/stand-ins/clock', { byMs: minutes * MINUTE_MS });
const set = async (minutes: number, more: object = {}) =>
  house.owner.put<{ set: SetTime; error?: { code: string; message: string } }>(`/api/sites/${site}/set-time`, {
    at: new Date(nowMs() + minutes * MINUTE_MS).toISOString(),
    zone: 'Europe/London',
    version: (await house.owner.overview(site)).version,
    ...more,
  });
const isSet = async () => (await house.owner.get<{ set: SetTime | null }>(`/api/sites/${site}/set-time`)).body.set;
const notices = async () =>
  (await house.owner.get<Notice[]>(`/api/sites/${site}/notices`)).body.map(({ message }) => speak(message));
const until = async (holds: () => Promise<boolean>) => {
  for (let tries = 0; tries < 200; tries += 1) {
    if (await holds()) return;
    await new Promise((resolve) => {
      setTimeout(resolve, 50);
    });
  }
  throw new Error('it never came to pass');
};
const liveNumber = async () => (await house.owner.overview(site)).live?.number;

describe('at its time', () => {
  it('the draft goes out by itself, in the name of whoever set it, with the note, and not before', async () => {
    expect((await set(60, { note: 'Opening night' })).body.set).toMatchObject({
      zone: 'Europe/London',
      by: { name: 'Ada Stone' },
      note: 'Opening night',
      since: 0,
    });
    await runOn(30);
    await house.server.schedules.setTimes.ranAgain();
    expect(await house.owner.releases(site)).toEqual([]);
    await runOn(31);
    await until(async () => (await liveNumber()) === 1);
    expect((await house.owner.releases(site))[0]).toMatchObject({
      note: 'Opening night',
      by: { name: 'Ada Stone' },
      state: 'live',
    });
    expect(await isSet()).toBeNull();
  });

  it('what was decided after it was set does not go with it', async () => {
    await set(10);
    await house.owner.decide(site, {
      kind: 'title',
      page: (await house.owner.page(site, '/visit/')).id,
      title: 'Later',
    });
    expect(await isSet()).toMatchObject({ since: 1 });
    await runOn(11);
    await until(async () => (await liveNumber()) === 1);
    expect((await house.owner.changes(site)).changes.map(({ message }) => speak(message))).toEqual([
      'title “Visit” becomes “Later”',
    ]);
  });

  it('what was left out stays in the draft, as with a release at once', async () => {
    await house.owner.publish(site);
    for (const [address, title] of [
      ['/visit/', 'Come and see'],
      ['/welcome/', 'Not yet'],
    ])
      await house.owner.decide(site, {
        kind: 'title',
        page: (await house.owner.page(site, address ?? '')).id,
        title: title ?? '',
      });
    const { causes } = (await house.owner.get<{ causes: Cause[] }>(`/api/sites/${site}/changes/causes`)).body;
    const notYet = causes.find(({ message }) => speak(message).includes('Not yet'))?.seq ?? 0;
    expect((await set(10, { leaveOut: [notYet] })).body.set).toMatchObject({ since: 1 });
    expect((await house.owner.changes(site)).changes).toHaveLength(2);
    await runOn(11);
    await until(async () => (await liveNumber()) === 2);
    expect((await house.owner.changes(site)).changes.map(({ message }) => speak(message))).toEqual([
      expect.stringContaining('Not yet') as string,
    ]);
    expect((await set(10, { leaveOut: [9999] })).body.error?.code).toBe('nothing-to-undo');
    expect(await isSet()).toBeNull();
  });

  it('set anew it has one time, and left it has none', async () => {
    await set(10);
    const { body } = await set(600);
    expect((await isSet())?.at).toBe(body.set.at);
    await runOn(11);
    await fetch(`${house.owner.base}/api/sites/${site}/set-time`, {
      method: 'DELETE',
      headers: { cookie: house.owner.cookie, 'x-csrf-token': house.owner.csrf },
    });
    expect(await isSet()).toBeNull();
    await runOn(600);
    await house.server.schedules.setTimes.ranAgain();
    expect(await house.owner.releases(site)).toEqual([]);
  });

  it('a newer export applied meanwhile is not what was looked at: it is told instead', async () => {
    await set(10);
    await house.owner.bringIn(
      site,
      await zip({ ...SMALL_SITE, 'visit/index.html': `${SMALL_SITE['visit/index.html'] ?? ''}<!-- newer -->` }),
    );
    await runOn(11);
    await until(async () => (await isSet()) === null);
    expect(await notices()).toEqual([expect.stringContaining('a newer export was applied since')]);
    expect(await house.owner.releases(site)).toEqual([]);
  });
});

describe('refused, with the next step', () => {
  it.each([
    ['a time that is past', -5, {}, 422, 'time-is-past'],
    ['another draft', 5, { version: 999 }, 409, 'draft-stale'],
    ['no time zone', 5, { zone: 'Mars/Olympus' }, 400, 'input-invalid'],
  ])('%s', async (_, minutes, more, status, code) => {
    const answer = await set(minutes, more);
    expect([answer.status, answer.body.error?.code]).toEqual([status, code]);
    expect(await isSet()).toBeNull();
  });

  it('what must be fixed holds it when it is set', async () => {
    await house.owner.bringIn(site, await zip({ ...SMALL_SITE, 'dump.sql': 'create table visitor (name text);\n' }));
    expect((await set(5)).body.error?.code).toBe('snags-hold');
  });
});

it('a time that passed while nothing ran is told after the restart, and nothing goes out behind anybody’s back', async () => {
  await house.server.deps.db.run(
    `insert into set_time (site_id, at, zone, version, import_id, note, by) select $1, $2, 'Europe/London', s.version, s.current_import, '', p.id from site s, person p where s.id = $1 limit 1`,
    [site, new Date(nowMs() + 60 * MINUTE_MS)],
  );
  await house.restartServer(() =>
    fetch(`${house.env.FASTIGIUM_STANDINS_URL ?? ''}/clock`, {
      method: 'POST',
      headers: { authorization: `Bearer ${house.env.FASTIGIUM_HOST_TOKEN ?? ''}`, 'content-type': 'application/json' },
      body: JSON.stringify({ byMs: 90 * MINUTE_MS }),
    }),
  );
  const { db } = house.server.deps;
  const kept = () => db.many<{ message: NoticeMessage }>('select message from notice where site_id = $1', [site]);
  await until(async () => (await kept()).length === 1);
  const [told] = await kept();
  expect(told?.message.code).toBe('notice.set-time-missed');
  expect(told && speak(told.message)).toMatch(
    /^The release set for .* \(Europe\/London\) did not go out: Fastigium was not running then/,
  );
  expect(await db.many('select 1 from release where site_id = $1', [site])).toEqual([]);
});
