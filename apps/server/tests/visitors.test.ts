/** Who can visit, from the decision to the live host: said, refused, undone, told and kept secret. */
import type { HistoryRow } from '@fastigium/contracts/api/draft';
import type { Change } from '@fastigium/contracts/api/releases';
import { speak } from '../src/words.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newLiveSite, openHouse, type House } from './harness.ts';

let house: House;
let site: string;
const page = async (address: string) => (await house.owner.page(site, address)).id;
const answers = async (path: string) => (await house.visit('moor.localhost', path)).status;
const history = async () => (await house.owner.get<{ rows: HistoryRow[] }>(`/api/sites/${site}/history`)).body.rows;

beforeAll(async () => {
  house = await openHouse();
  site = await newLiveSite(house, 'Moor');
});
afterAll(() => house.stop());

const tried = async (decision: Record<string, unknown>) => {
  const { version } = (await house.owner.get(`/api/sites/${site}/visitors`)).body as { version: number };
  return house.owner.post(`/api/sites/${site}/decisions`, { version, decision });
};

describe('what is said', () => {
  it('goes out with a release and not before, and is told among what visitors will notice', async () => {
    await house.owner.decide(site, {
      kind: 'entry',
      place: await page('/visit/'),
      entry: { kind: 'password', user: 'client', password: 'seven lanterns' },
    });
    expect(await answers('/visit/')).toBe(200);
    const changes = (await house.owner.get(`/api/sites/${site}/changes`)).body as {
      changes: Change[];
    };
    expect(changes.changes).toEqual([
      expect.objectContaining({
        group: 'visitors',
        subject: '/visit/',
        message: {
          code: 'change.who',
          parameters: {
            now: { code: 'change.who-password', parameters: { user: 'client' } },
            before: { code: 'change.who-around', parameters: {} },
          },
        },
      }),
    ]);
    await house.owner.publish(site);
    expect(await answers('/visit/')).toBe(401);
    expect((await house.owner.get(`/api/sites/${site}/changes`)).body).toMatchObject({ changes: [] });
    expect(await answers('/welcome/')).toBe(200);
  });

  it('follows the page when it moves, and stays where it is removed', async () => {
    await house.owner.decide(site, { kind: 'rename', page: await page('/visit/'), address: '/come/' });
    await house.owner.publish(site);
    expect([await answers('/come/'), await answers('/visit/')]).toEqual([401, 301]);
  });

  it('is a step that goes back', async () => {
    await house.owner.decide(site, { kind: 'entry', place: null, entry: { kind: 'nobody' } });
    const [last] = await history();
    expect(last && speak(last.message)).toBe('Nobody may visit the site yet');
    await house.owner.decide(site, { kind: 'undo', of: last?.seq ?? 0 });
    expect((await house.owner.get(`/api/sites/${site}/visitors`)).body).toMatchObject({
      places: [{ kind: 'password', user: 'client', address: '/come/' }],
      isEnforced: true,
    });
  });

  it('comes back with a rollback', async () => {
    await house.owner.decide(site, { kind: 'entry', place: null, entry: { kind: 'nobody' } });
    await house.owner.publish(site);
    expect([await answers('/'), await answers('/come/')]).toEqual([503, 401]);
    const releases = (await house.owner.get(`/api/sites/${site}/releases`)).body as unknown as { number: number }[];
    const { body } = await house.owner.post<{ job: string }>(
      `/api/sites/${site}/releases/${releases[1]?.number ?? 0}/rollback`,
    );
    await house.owner.ended(body.job);
    expect([await answers('/'), await answers('/come/')]).toEqual([200, 401]);
  });
});

describe('a password', () => {
  it('is told to editors and never to those who look on; the history and the decision have its hash alone', async () => {
    expect((await house.owner.get(`/api/sites/${site}/visitors/passwords`)).body).toMatchObject({
      passwords: [{ user: 'client', password: 'seven lanterns' }],
    });
    const rows = await house.server.deps.db.many<{ body: unknown; message: unknown }>(
      'select body, message from decision where site_id = $1',
      [site],
    );
    expect(JSON.stringify(rows)).not.toContain('seven lanterns');
    expect(JSON.stringify(rows)).toContain('$2b$10$');
  });
});

describe('refused, and nothing changes', () => {
  it.each([
    [
      'a short password',
      { kind: 'entry', place: null, entry: { kind: 'password', user: 'a', password: 'short' } },
      400,
      'at least 8',
    ],
    [
      'one that bcrypt would cut',
      { kind: 'entry', place: null, entry: { kind: 'password', user: 'a', password: 'ô'.repeat(40) } },
      400,
      'at most 72',
    ],
    [
      'a name with a colon',
      { kind: 'entry', place: null, entry: { kind: 'password', user: 'a:b', password: 'long enough' } },
      400,
      'colons',
    ],
    ['a day that is over', { kind: 'last-day', day: '2020-01-01' }, 422, '2020-01-01'],
    ['no day at all', { kind: 'last-day', day: 'soon' }, 400, '2027-03-31'],
    ['a page that is not there', { kind: 'shown-instead', page: '00000000-0000-4000-8000-000000000000' }, 404, 'page'],
    ['what is so already', { kind: 'last-day', day: null }, 422, 'already'],
  ] as const)('%s', async (_, decision, status, words) => {
    const before = (await history()).length;
    const answer = await tried(decision);
    expect([answer.status, JSON.stringify(answer.body)]).toEqual([status, expect.stringContaining(words)]);
    expect((await history()).length).toBe(before);
  });

  it('the home page’s branch, which is the whole site', async () => {
    expect((await tried({ kind: 'entry', place: await page('/'), entry: { kind: 'nobody' } })).body).toMatchObject({
      error: { code: 'entry-of-home' },
    });
  });

  it('a page that is not ready, to be shown instead', async () => {
    await house.owner.decide(site, { kind: 'ready', page: await page('/welcome/'), ready: false });
    expect((await tried({ kind: 'shown-instead', page: await page('/welcome/') })).status).toBe(422);
  });
});
