/** The audit trail: who did what, and that nothing is done that cannot be written down. */
import type { People } from '@fastigium/contracts/api/people';
import type { TrailEntry } from '@fastigium/contracts/api/trail';
import { describe, expect, it } from 'vitest';
import { GOOD, NEXT, house, idOf, joined, useAccounts } from './accounts.house.ts';
import { newLiveSite, OWNER } from './harness.ts';

useAccounts();

describe('the trail', () => {
  const entries = async (query = '') =>
    (await house.owner.get<{ entries: TrailEntry[]; more: boolean }>(`/api/trail${query}`)).body.entries;

  it('has who did what, also what was refused, and what strangers tried with whose name', async () => {
    const { client, email } = await joined('editor');
    await house.owner.put(`/api/people/${await idOf(email)}/role`, { role: 'reviewer' });
    await client.put('/api/account/password', { password: 'not this one', next: NEXT });
    await house.client().signIn(email, 'a guess of a stranger');
    await house.client().signIn('nobody@house.example', 'a guess of a stranger');
    const [guess, refused, role] = await entries();
    expect(guess).toMatchObject({
      kind: 'sign-in',
      what: { code: 'act.session-sign-in' },
      outcome: 'sign-in-wrong',
      site: null,
    });
    expect(refused).toMatchObject({ kind: 'account', outcome: 'password-wrong' });
    expect(role).toMatchObject({
      kind: 'people',
      who: OWNER.name,
      outcome: 'done',
      about: { code: 'act-about.role-given', parameters: { before: 'editor', after: 'reviewer' } },
      address: expect.stringContaining('127.0.0.1') as unknown,
    });
    expect((await client.get('/api/trail')).status).toBe(403);
    expect(JSON.stringify(await entries())).not.toContain('a guess of');
    // Those turned away unlooked at leave nothing: anybody could fill it with them.
    const before = (await entries())[0]?.number ?? 0;
    for (let n = 0; n < 15; n += 1) await house.client().signIn(email, 'a guess of a stranger');
    expect((await entries()).filter(({ number }) => number > before).length).toBeLessThan(11);
  });

  it('has hosts, releases and secrets with their sites, and can be read in part', async () => {
    const site = await newLiveSite(house, 'On the trail');
    await house.owner.get(`/api/sites/${site}/visitors/passwords`);
    expect((await entries('?kind=releases'))[0]).toMatchObject({
      site: 'On the trail',
      outcome: 'done',
      what: { code: 'act.releases-publish', parameters: {} },
    });
    expect((await entries('?kind=secrets'))[0]).toMatchObject({ site: 'On the trail', outcome: 'done' });
    const all = await entries();
    const older = await entries(`?before=${all[2]?.number}`);
    expect(older[0]?.number).toBe(all[3]?.number);
  });

  it('is taken along as a table in which nothing reckons, and is changed by nobody', async () => {
    const { body } = await house.owner.post<{ token: string }>('/api/invitations', { role: 'editor' });
    const client = house.client();
    await client.start();
    await client.post(`/api/join/${body.token}`, { name: '=1+1', email: 'formula@house.example', password: GOOD });
    const table = await house.owner.get<{ text: string }>('/api/trail.csv');
    expect(table.headers.get('content-type')).toContain('text/csv');
    expect(table.body.text.split('\r\n')[0]).toBe('number,at,kind,what,who,address,request,site,about,outcome');
    expect(table.body.text).toContain(`'=1+1`);
    expect(table.body.text).not.toMatch(/,=1\+1/);
    const { db } = house.server.deps;
    await expect(db.run(`update trail set who = 'somebody else'`)).rejects.toThrow();
    await expect(db.run(`update trail set outcome = 'done' where outcome = 'sign-in-wrong'`)).rejects.toThrow();
    await expect(db.run('delete from trail')).rejects.toThrow();
  });

  it('is one team’s, and whole also where it is long', async () => {
    const { db } = house.server.deps;
    await db.run(
      `with other as (insert into team (name) values ('A third team') returning id)
       insert into trail (team_id, kind, what, who, address, request) select id, 'people', 'Of the others', 'x', '', '' from other`,
    );
    await db.run(
      `insert into trail (team_id, kind, what, who, address, request)
       select (select team_id from person limit 1), 'people', 'One of many ' || n, 'x', '', '' from generate_series(1, 4500) n`,
    );
    const { text } = (await house.owner.get<{ text: string }>('/api/trail.csv')).body;
    expect(text).not.toContain('Of the others');
    expect(JSON.stringify(await entries())).not.toContain('Of the others');
    const found = [...text.matchAll(/One of many (\d+)/g)].map(([, n]) => Number(n));
    expect(found).toEqual(Array.from({ length: 4500 }, (_, n) => 4500 - n));
  });

  it('is written before the act: what cannot be written down is not done', async () => {
    const { email } = await joined('editor');
    const { db } = house.server.deps;
    await db.run(`alter table trail add constraint nothing_more check (id < 0) not valid`);
    try {
      expect((await house.owner.put(`/api/people/${await idOf(email)}/role`, { role: 'owner' })).status).toBe(500);
    } finally {
      await db.run('alter table trail drop constraint nothing_more');
    }
    const people = (await house.owner.get<People>('/api/people')).body.members;
    expect(people.find((each) => each.email === email)?.role).toBe('editor');
  });
});
