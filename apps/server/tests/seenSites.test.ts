/** Who sees which site, and what a client sees of it. */
import { describe, expect, it } from 'vitest';
import { code, house, idOf, joined, useAccounts } from './accounts.house.ts';
import { newLiveSite, SMALL_SITE, zip } from './harness.ts';

useAccounts();

describe('sites', () => {
  it('are for whom an owner says: what is not shown is as good as none, and streams of it end', async () => {
    const [one, two] = [await house.owner.newSite('Seen'), await house.owner.newSite('Hidden')];
    const { client, email } = await joined('editor', [one]);
    const names = async () => (await client.get<{ name: string }[]>('/api/sites')).body.map(({ name }) => name);
    expect(await names()).toEqual(['Seen']);
    expect((await client.get(`/api/sites/${two}`)).status).toBe(404);
    const id = await idOf(email);
    await house.owner.put(`/api/people/${id}/sites`, { sites: [two] });
    expect(await names()).toEqual(['Hidden']);
    await house.owner.put(`/api/people/${id}/sites`, { sites: null });
    expect(await names()).toContain('Seen');
    await house.owner.put(`/api/people/${id}/sites`, { sites: [] });
    expect(await names()).toEqual([]);
    // What somebody makes they see.
    await client.newSite('Made by them');
    expect(await names()).toEqual(['Made by them']);
    expect((await house.owner.get<unknown[]>('/api/sites')).body.length).toBeGreaterThan(2);
    expect(
      (await house.owner.put(`/api/people/${id}/sites`, { sites: ['00000000-0000-4000-8000-000000000000'] })).status,
    ).toBe(404);
    expect(await names(), 'what could not be set whole is not set').toEqual(['Made by them']);
  });

  it('of another team are as good as none, also to an owner; and who was removed sees none', async () => {
    const { db } = house.server.deps;
    const { id: foreign } = await db.one<{ id: string }>(
      `with other as (insert into team (name) values ('Another team') returning id)
       insert into site (team_id, name, host_name, temporary_label) select id, 'Theirs', 'theirs', 'theirs' from other returning id`,
    );
    expect((await house.owner.get(`/api/sites/${foreign}`)).status).toBe(404);
    const { email } = await joined('editor');
    const id = await idOf(email);
    expect((await house.owner.put(`/api/people/${id}/sites`, { sites: [foreign] })).status).toBe(404);
    expect((await house.owner.post('/api/invitations', { role: 'editor', sites: [foreign] })).status).toBe(404);
    const own = await house.owner.newSite('Of this team');
    const sees = async () => (await db.one<{ sees: boolean }>('select sees_site($1, $2) as sees', [id, own])).sees;
    expect(await sees()).toBe(true);
    await db.run('update person set removed_at = now() where id = $1', [id]);
    expect(await sees()).toBe(false);
  });

  it('are not told of by a job or a stream to whom they are not shown any more', async () => {
    const site = await house.owner.newSite('Streamed');
    const job = await house.owner.bringIn(site, await zip(SMALL_SITE));
    const { client, email } = await joined('reviewer', [site]);
    expect((await client.get(`/api/jobs/${job.id}`)).status).toBe(200);
    const stream = await fetch(`${client.base}/api/sites/${site}/events`, { headers: { cookie: client.cookie } });
    const reader = stream.body?.getReader();
    await reader?.read();
    await house.owner.put(`/api/people/${await idOf(email)}/sites`, { sites: [] });
    let isDone = false;
    while (!isDone) isDone = (await reader?.read())?.done ?? true;
    expect((await client.get(`/api/jobs/${job.id}`)).status).toBe(404);
  });

  it('show a client the live site and its reports, and nothing of the work', async () => {
    const site = await newLiveSite(house, 'For a client');
    const other = await house.owner.newSite('Not theirs');
    const { body } = await house.owner.post<{ job: string }>(`/api/sites/${site}/inspection`);
    await house.owner.ended(body.job);
    const neighbour = await newLiveSite(house, 'Of another client');
    const inspected = await house.owner.post<{ job: string }>(`/api/sites/${neighbour}/inspection`);
    await house.owner.ended(inspected.body.job);
    const { client, email } = await joined('client', [site]);
    expect((await client.get(`/api/sites/${site}/client`)).body).toMatchObject({
      name: 'For a client',
      live: { number: 1 },
      rehearsal: null,
      reports: [{ release: 1, isLive: true }],
    });
    expect((await client.get(`/api/sites/${site}/releases/1/report.html`)).status).toBe(200);
    expect((await client.get(`/api/sites/${other}/client`)).status).toBe(404);
    for (const path of ['', '/pages', '/releases', '/address', '/events', '/history'])
      expect((await client.get(`/api/sites/${site}${path}`)).status, path).toBe(403);
    expect((await client.get('/api/people')).status).toBe(403);
    expect(code(await house.owner.post('/api/invitations', { role: 'client' }))).toBe('input-invalid');
    // Somebody who saw everything sees nothing as a client until it is named.
    const { client: was, email: wasEmail } = await joined('editor');
    await house.owner.put(`/api/people/${await idOf(wasEmail)}/role`, { role: 'client' });
    expect((await was.get('/api/sites')).body).toEqual([]);
    expect(code(await house.owner.put(`/api/people/${await idOf(email)}/sites`, { sites: null }))).toBe(
      'input-invalid',
    );
  });
});
