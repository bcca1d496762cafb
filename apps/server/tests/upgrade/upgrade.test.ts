/**
 * The upgrade from the version before, on data that version wrote: a site with two releases, decisions, a redirect, old
 * addresses, a sealed secret, two people and an open invitation. How such a dump is made stands in README.md beside it.
 */
import type { HistoryRow } from '@fastigium/contracts/api/draft';
import type { Inspection } from '@fastigium/contracts/api/inspection';
import type { Rehearsal } from '@fastigium/contracts/api/rehearsal';
import type { Notice } from '@fastigium/contracts/api/removals';
import { createHash } from 'node:crypto';
import { readdirSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { speak } from '../../src/words.ts';
import { openHouse, OWNER, type House } from '../harness.ts';

const dumps = readdirSync(new URL('.', import.meta.url)).filter((name) => name.endsWith('.dump'));

it('there is data of a version before', () => expect(dumps.length).toBeGreaterThan(0));

describe.each(dumps)('the database as it was up to migration %s', (name) => {
  let house: House;
  let site: string;
  beforeAll(async () => {
    house = await openHouse({ dump: new URL(name, import.meta.url).pathname });
    const [kept] = (await house.owner.get<{ id: string; name: string }[]>('/api/sites')).body;
    expect(kept?.name).toBe('Kept from before');
    site = kept?.id ?? '';
  });
  afterAll(() => house.stop());

  it('has every migration of today, each once', async () => {
    const migrations = readdirSync(new URL('../../migrations', import.meta.url)).filter((file) =>
      file.endsWith('.sql'),
    );
    const applied = await house.server.deps.db.many<{ name: string }>('select name from migration order by name');
    expect(applied.map((row) => row.name)).toEqual(migrations.sort());
  });

  it('lets in whoever had a password, with their role, seeing every site as before', async () => {
    const { members, invitations } = (
      await house.owner.get<{
        members: { email: string; role: string; access: { sites: string[] | null } | null }[];
        invitations: { role: string }[];
      }>('/api/people')
    ).body;
    expect(members.map(({ role }) => role)).toEqual(['owner', 'editor']);
    expect(members.every(({ access }) => access?.sites === null)).toBe(true);
    expect(invitations).toMatchObject([{ role: 'reviewer' }]);
    const editor = house.client();
    expect((await editor.signIn(members[1]?.email ?? '', 'long enough for me')).status).toBe(200);
    expect((await editor.get<unknown[]>('/api/sites')).body).toHaveLength(1);
    expect((await house.client().signIn(OWNER.email, 'another one')).status).toBe(401);
  });

  it('has the draft, its history and its releases as they were', async () => {
    const hasMore = name >= '000039';
    expect(await house.owner.overview(site)).toMatchObject({
      version: hasMore ? 8 : 3,
      liveRelease: 2,
      files: 6,
      redirects: hasMore ? 2 : 1,
    });
    expect((await house.owner.page(site, '/visit/')).title).toBe('Only in the draft');
    expect((await house.owner.page(site, '/welcome/')).title).toBe('Welcome back');
    expect((await house.owner.releases(site)).map(({ number, state }) => `${number} ${state}`)).toEqual([
      '2 live',
      '1 past',
    ]);
    const { rows: body } = (await house.owner.get<{ rows: HistoryRow[] }>(`/api/sites/${site}/history`)).body;
    expect(body).toHaveLength(hasMore ? 8 : 3);
    const contents = await house.server.deps.db.many<{ hash: string; bytes: Buffer }>(
      'select hash, bytes from content',
    );
    expect(contents.length).toBeGreaterThan(5);
    for (const { hash, bytes } of contents) expect(createHash('sha256').update(bytes).digest('hex')).toBe(hash);
  });

  it('says what was told before messages were data as it was written', async () => {
    const history = (await house.owner.get<{ rows: HistoryRow[] }>(`/api/sites/${site}/history`)).body.rows;
    const told = history.map(({ message }) => speak(message)).reverse();
    expect(told.slice(0, 3)).toEqual([
      'Title of /welcome/ set to “Welcome back”',
      '/old-visit.php lands on /visit/ (301)',
      'Title of /visit/ set to “Only in the draft”',
    ]);
    if (name < '000039') return;
    // A step back is known for what it is: it is the next to go forward, without its words being read.
    expect(told.slice(3, 5)).toEqual([
      'Taken back: Title of /visit/ set to “Only in the draft”',
      'Done again: Title of /visit/ set to “Only in the draft”',
    ]);
    expect(history.map(({ message }) => message.code).slice(3, 5)).toEqual(['decision.redone', 'decision.undone']);
    const { inspection } = (
      await house.owner.get<{ inspection: Inspection | null }>(`/api/sites/${site}/releases/2/inspection`)
    ).body;
    expect(inspection?.findings.map(({ address, message }) => `${address} ${speak(message)}`)).toEqual([
      '/welcome/ shows something else than was published',
    ]);
    const { rehearsal } = (await house.owner.get<{ rehearsal: Rehearsal | null }>(`/api/sites/${site}/rehearsal`)).body;
    expect(rehearsal?.findings.map(({ message }) => speak(message))).toEqual([
      'shows something else than was published',
    ]);
    const report = await house.owner.get<{ text: string }>(`/api/sites/${site}/releases/2/report.html`);
    expect(report.body.text).toContain('title “Welcome” becomes “Welcome back”');
    const editor = house.client();
    await editor.signIn('ben@moor.example', 'long enough for me');
    const [notice] = (await editor.get<Notice[]>(`/api/sites/${site}/notices`)).body;
    expect(notice && speak(notice.message)).toBe('Ada Stone removed for good “Team”, which you had removed.');
  });

  it('opens what was sealed', async () => {
    const { db, seal } = house.server.deps;
    const [row] = await db.many<{ id: string; secret: Buffer }>('select id, secret from hook');
    expect(seal.open(`hook ${row?.id}`, row?.secret ?? Buffer.alloc(0))).toMatch(/^[\w-]{32}$/);
  });

  it('goes on: a step back, another one, a release that visitors get, and the way back to one of before', async () => {
    const { id } = await house.owner.page(site, '/visit/');
    await house.owner.decide(site, { kind: 'title', page: id, title: 'After the upgrade' });
    expect((await house.owner.publish(site)).state).toBe('done');
    const { hostName } = await house.owner.overview(site);
    const visit = (path: string) => house.visit(`${hostName}.localhost`, path);
    expect((await visit('/visit/')).body).toContain('<title>After the upgrade</title>');
    expect(await visit('/old-visit.php')).toMatchObject({ status: 301, location: '/visit/' });
    const { body } = await house.owner.post<{ job: string }>(`/api/sites/${site}/releases/1/rollback`);
    expect((await house.owner.ended(body.job)).state).toBe('done');
    expect((await visit('/welcome/')).body).toContain('<title>Welcome</title>');
  });
});
