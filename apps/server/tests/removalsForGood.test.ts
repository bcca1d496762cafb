/** Removing for good, by hand and by a time limit. */
import type { Notice } from '@fastigium/contracts/api/removals';
import { speak } from '../src/words.ts';
import type { PageRow } from '@fastigium/contracts/api/draft';
import { describe, expect, it } from 'vitest';
import { letBe } from './harness.ts';
import {
  house,
  site,
  decide,
  tree,
  at,
  list,
  last,
  remove,
  putBack,
  compiled,
  colleague,
  forGood,
  DAY_MS,
  runOn,
  until,
  history,
  useRemovals,
} from './removals.house.ts';

useRemovals();

describe('removing for good', () => {
  it('is an owner’s, names what goes, and leaves where its addresses lead', async () => {
    const [groups, editor] = [await at('/visit/groups/'), await colleague('editor', 'dai@sweep.example')];
    const { version } = await house.owner.overview(site);
    expect(
      (
        await editor.post(`/api/sites/${site}/decisions`, {
          version,
          decision: { kind: 'remove', thing: { kind: 'node', node: groups.id }, standIn: { kind: 'parent' } },
        })
      ).status,
    ).toBe(201);
    const of = await last();
    expect(await forGood([of], 'Groups and schools', editor)).toMatchObject({ status: 403 });
    expect(await forGood([of], 'Groups')).toMatchObject({
      code: 'confirmation-differs',
      message: expect.stringContaining('type Groups and schools'),
    });
    expect(await forGood([of], 'Groups and schools')).toMatchObject({
      status: 200,
      words: '“Groups and schools” removed for good',
    });
    // What it led to goes on as a redirect of its own, and whoever had removed it is told.
    expect((await compiled()).rules).toContainEqual({ from: '/visit/groups/', status: 301, to: '/visit/' });
    const notices = (await editor.get<Notice[]>(`/api/sites/${site}/notices`)).body;
    expect(notices.map(({ message }) => speak(message))).toEqual([
      'Ada Stone removed for good “Groups and schools”, which you had removed.',
    ]);
    expect((await house.owner.get(`/api/sites/${site}/notices`)).body).toEqual([]);
    await editor.put(`/api/sites/${site}/notices/${notices[0]?.id ?? ''}/seen`);
    expect((await editor.get(`/api/sites/${site}/notices`)).body).toEqual([]);
    expect(await putBack(of)).toMatchObject({ status: 410, code: 'removal-swept' });
    expect(await decide({ kind: 'undo', of })).toMatchObject({ status: 410, code: 'removal-swept' });
    expect((await history())[0]).toMatchObject({ isStep: false });
  });

  it('stops at what somebody holds, and takes nothing then', async () => {
    const [groups, access, editor] = [
      await at('/visit/groups/'),
      await at('/visit/access/'),
      await colleague('editor', 'eli@sweep.example'),
    ];
    await remove(groups.id);
    await remove(access.id);
    const [second, first] = (await list()).rows.map(({ of }) => of) as [number, number];
    const { version } = await house.owner.overview(site);
    await editor.post(`/api/sites/${site}/decisions`, {
      version,
      decision: { kind: 'hold-removals', of: [first], reason: 'The client decides on Monday' },
    });
    expect((await list()).rows[1]).toMatchObject({
      held: { reason: 'The client decides on Monday', by: { name: 'eli' } },
      keptUntil: null,
    });
    expect(await forGood([first, second], '2')).toMatchObject({
      status: 409,
      code: 'removal-held',
      message: expect.stringContaining('held by eli: The client decides on Monday'),
    });
    expect((await list()).rows).toHaveLength(2);
    expect(await decide({ kind: 'free-removals', of: [first] })).toMatchObject({ status: 201 });
    expect(await decide({ kind: 'free-removals', of: [first] })).toMatchObject({ code: 'not-held' });
    expect(await forGood([first, second], '2')).toMatchObject({ status: 200 });
    expect((await list()).rows).toEqual([]);
  });

  it('deletes what nothing else needs, keeps what a release has, and leaves neighbours where they are', async () => {
    const { db } = house.server.deps;
    const journal = await at('/journal/');
    const entries = (await tree()).pages.filter(({ parent }) => parent === journal.id);
    const [one, two] = [entries[1], entries[2]] as [PageRow, PageRow];
    await decide({ kind: 'place', node: two.id, parent: journal.id, after: one.id });
    const order = (await tree()).pages.map(({ id }) => id).filter((id) => id !== one.id);
    const hashOf = (id: string) =>
      db.one<{ hash: string }>(
        'select f.hash from source_file f join site s on s.current_import = f.import_id where s.id = $1 and page_id = $2',
        [site, id],
      );
    const { hash } = await hashOf(one.id);
    const contents = async (of: string) =>
      (await db.one<{ n: number }>('select count(*)::int as n from content where hash = $1', [of])).n;
    const jobs = async () =>
      (
        await db.one<{ n: number }>(
          `select count(*)::int as n from job where site_id = $1 and state in ('waiting', 'running')`,
          [site],
        )
      ).n;
    await letBe(house, site);
    expect((await house.owner.publish(site)).state).toBe('done');
    await remove(one.id);
    await forGood([await last()], one.label);
    await until(jobs, (n) => n === 0);
    expect((await tree()).pages.map(({ id }) => id)).toEqual(order);
    expect((await tree()).removed).toEqual([]);
    expect(
      await db.maybeOne(
        'select 1 from source_file f join import i on i.id = f.import_id where i.site_id = $1 and page_id = $2',
        [site, one.id],
      ),
    ).toBeUndefined();
    // Its bytes went live unchanged in release 1, which is kept.
    expect(await contents(hash)).toBe(1);
    // A page that was in no release and no other site goes with its bytes.
    await decide({
      kind: 'add-page',
      title: 'Never published',
      text: 'Not for long',
      like: journal.id,
      parent: null,
      after: null,
    });
    const added = (await tree()).pages.find(({ label }) => label === 'Never published');
    const node = (
      await db.one<{ hash: string }>(
        `select body->'node'->>'hash' as hash from decision where site_id = $1 and body->'node'->>'id' = $2`,
        [site, added?.id],
      )
    ).hash;
    await remove(added?.id ?? '');
    await forGood([await last()], 'Never published');
    await until(jobs, (n) => n === 0);
    expect(await contents(node)).toBe(0);
    await letBe(house, site);
    expect((await house.owner.publish(site)).state).toBe('done');
    const name = (await house.owner.overview(site)).hostName;
    expect((await house.visit(`${name}.localhost`, one.address)).status).toBe(404);
    const { body } = await house.owner.post<{ job: string }>(`/api/sites/${site}/releases/1/rollback`);
    expect((await house.owner.ended(body.job)).state).toBe('done');
    expect((await house.visit(`${name}.localhost`, one.address)).status).toBe(200);
  });
});

describe('a time limit', () => {
  it('takes what it reaches, tells whoever removed it, and is written to the history', async () => {
    await remove((await at('/visit/groups/')).id);
    await runOn(10);
    await remove((await at('/visit/access/')).id);
    await decide({ kind: 'hold-removals', of: [await last()], reason: 'Asked for' });
    await remove((await at('/visit/getting-here/')).id);
    expect((await list()).sweptSoon).toBe(0);
    await runOn(15);
    expect(await list()).toMatchObject({ keptDays: 30, sweptSoon: 1 });
    expect((await house.owner.overview(site)).removals).toMatchObject({ all: 3, sweptSoon: 1 });
    await runOn(6);
    expect((await until(list, ({ rows }) => rows.length === 2)).rows.map(({ label }) => label)).toEqual([
      'Getting here',
      'Access',
    ]);
    expect((await history())[0]).toMatchObject({
      message: { code: 'decision.swept', parameters: { count: 1, label: 'Groups and schools', by: 'time' } },
      by: null,
      isStep: false,
    });
    expect((await house.owner.get<Notice[]>(`/api/sites/${site}/notices`)).body[0]?.message).toMatchObject({
      code: 'notice.swept-by-time',
      parameters: { count: 1, label: 'Groups and schools' },
    });
    await runOn(40);
    expect((await until(list, ({ rows }) => rows.length === 1)).rows).toMatchObject([
      { label: 'Access', held: { reason: 'Asked for' } },
    ]);
  });

  it('that is made shorter takes nothing before a week of notice', async () => {
    await remove((await at('/visit/groups/')).id);
    await runOn(20);
    const { body } = await house.owner.put<{ keptDays: number; reached: number; notBefore: string }>(
      `/api/sites/${site}/removals/kept-days`,
      { days: 14 },
    );
    expect(body).toMatchObject({ keptDays: 14, reached: 1 });
    const [row] = (await list()).rows;
    expect(row?.keptUntil).toBe(body.notBefore);
    expect(new Date(body.notBefore).getTime() - house.server.deps.world.clock.nowMs()).toBeGreaterThan(6.9 * DAY_MS);
    await house.owner.put(`/api/sites/${site}/removals/kept-days`, { days: 0 });
    await runOn(300);
    await house.server.schedules.removals.ranAgain();
    expect((await list()).rows).toMatchObject([{ keptUntil: null }]);
  });
});
