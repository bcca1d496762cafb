/** The draft on a temporary address of its own: whole, asked from outside, and the live site as it was. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Rehearsal } from '@fastigium/contracts/api/rehearsal';
import { letBe, openHouse, SMALL_SITE, zip, type House } from './harness.ts';

let house: House;
let site: string;
const rehearsed = async () =>
  (await house.owner.get<{ rehearsal: Rehearsal | null; isPossible: boolean }>(`/api/sites/${site}/rehearsal`)).body;
const rehearse = async () => {
  const { body, status } = await house.owner.post<{ job: string }>(`/api/sites/${site}/rehearsal`);
  expect(status).toBe(202);
  return house.owner.ended(body.job);
};

beforeAll(async () => {
  house = await openHouse();
  site = await house.owner.newSite('Moor');
  await house.owner.bringIn(site, await zip(SMALL_SITE));
});
afterAll(() => house.stop());

describe('a rehearsal', () => {
  it('shows the draft before anything is live, also with snags that hold a release', async () => {
    expect(await rehearsed()).toEqual({ rehearsal: null, isPossible: true });
    expect((await rehearse()).state).toBe('done');
    expect((await rehearsed()).rehearsal).toMatchObject({ verdict: 'right', since: 0, findings: [] });
    expect((await house.visit('moor-rehearsal.localhost', '/visit/')).body).toBe(SMALL_SITE['visit/index.html']);
    expect((await house.visit('moor.localhost', '/')).status).toBe(404);
  });

  it('is of the draft as it is then, with its redirects and who may visit, and leaves the live site as it was', async () => {
    await letBe(house, site);
    await house.owner.publish(site);
    const { id } = await house.owner.page(site, '/visit/');
    await house.owner.decide(site, { kind: 'title', page: id, title: 'Come and see' });
    await house.owner.decide(site, {
      kind: 'redirect',
      from: '/old',
      to: { status: 301, target: { kind: 'page', page: id } },
    });
    await house.owner.decide(site, {
      kind: 'entry',
      place: (await house.owner.page(site, '/welcome/')).id,
      entry: { kind: 'nobody' },
    });
    expect((await rehearsed()).rehearsal?.since).toBeGreaterThan(0);
    await rehearse();
    expect((await house.visit('moor-rehearsal.localhost', '/visit/')).body).toContain('<title>Come and see</title>');
    expect((await house.visit('moor-rehearsal.localhost', '/old')).location).toBe('/visit/');
    expect((await house.visit('moor-rehearsal.localhost', '/welcome/')).status).toBe(503);
    expect((await house.visit('moor.localhost', '/visit/')).body).toBe(SMALL_SITE['visit/index.html']);
    expect((await house.visit('moor.localhost', '/old')).status).toBe(404);
    expect((await rehearsed()).rehearsal).toMatchObject({ verdict: 'right', since: 0 });
    // What was rehearsed is at the host already.
    await house.owner.publish(site);
    expect((await house.owner.releases(site))[0]).toMatchObject({ filesSent: 0 });
  });
});
