/** Pictures of pages by Debian's Chromium: taken once for each look, of nothing but the site, and kept apart from what is live. */
import type { Job } from '@fastigium/contracts/api/jobs';
import type { Pictures } from '@fastigium/contracts/api/pictures';
import { readdirSync, readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { setTimeout as pause } from 'node:timers/promises';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openHouse, zip, type House } from '../harness.ts';

const html = (title: string, body: string, head = '') =>
  `<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${title}</title><meta name="description" content="A page of a test, about ${title}, and about nothing else that matters."><link rel="stylesheet" href="/style.css">${head}</head><body>${body}</body></html>`;

/** linux/sched.h. */
const SCHED_IDLE = '5';

let house: House;
let site: string;
beforeAll(async () => {
  house = await openHouse({ env: { FASTIGIUM_CHROMIUM: '/usr/bin/chromium' } });
  site = await house.owner.newSite('Pictured');
}, 60_000);
afterAll(() => house.stop());

const pictures = async () => (await house.owner.get<Pictures>(`/api/sites/${site}/pictures`)).body;
const taken = async (since: number): Promise<Pictures> => {
  for (let tries = 0; tries < 1800; tries += 1) {
    const jobs = await house.server.deps.db.many<{ state: Job['state'] }>(
      `select state from job where site_id = $1 and kind in ('pictures', 'compile', 'publish')`,
      [site],
    );
    const done = jobs.filter(({ state }) => state === 'done').length;
    if (jobs.every(({ state }) => state !== 'waiting' && state !== 'running') && done > since) return pictures();
    await pause(50);
  }
  throw new Error('no picture was taken');
};
const jobsDone = async () =>
  (
    await house.server.deps.db.one<{ n: number }>(
      `select count(*)::int as n from job where site_id = $1 and kind in ('pictures', 'compile', 'publish') and state = 'done'`,
      [site],
    )
  ).n;
const picture = async (hash: string | undefined) => {
  const response = await fetch(`${house.owner.base}/api/sites/${site}/pictures/${hash}`, {
    headers: { cookie: house.owner.cookie },
  });
  return {
    status: response.status,
    type: response.headers.get('content-type'),
    bytes: Buffer.from(await response.arrayBuffer()),
  };
};

/** How much two pictures differ, 0 to 255 on average; Chromium does not promise the same bytes twice. */
async function difference(a: string | undefined, b: string | undefined): Promise<number> {
  const [one, other] = await Promise.all(
    [a, b].map(async (hash) =>
      sharp((await picture(hash)).bytes)
        .raw()
        .toBuffer(),
    ),
  );
  expect(one?.length).toBe(other?.length);
  return (
    [...(one ?? [])].reduce((sum, value, at) => sum + Math.abs(value - (other?.[at] ?? 0)), 0) / (one?.length ?? 1)
  );
}

/** Scheduling policies of the renderers that this process started, by proc_pid_stat(5): fields 4 and 41. */
function policies(): string[] {
  const stats = new Map(
    readdirSync('/proc')
      .filter((name) => /^\d+$/.test(name))
      .flatMap((name) => {
        try {
          const stat = readFileSync(`/proc/${name}/stat`, 'latin1');
          const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
          return [
            [
              name,
              {
                parent: fields[1] ?? '',
                policy: fields[38] ?? '',
                isRenderer: readFileSync(`/proc/${name}/cmdline`, 'latin1').includes('--type=renderer'),
              },
            ] as const,
          ];
        } catch {
          return [];
        }
      }),
  );
  const isOurs = (name: string): boolean =>
    name === String(process.pid) || (stats.has(name) && isOurs(stats.get(name)?.parent ?? ''));
  return [...stats].filter(([name, { isRenderer }]) => isRenderer && isOurs(name)).map(([, { policy }]) => policy);
}

describe('a picture of each page', () => {
  // Looked at while all the others run: a renderer lives for moments.
  const found = new Set<string>();
  const look = setInterval(() => {
    for (const policy of policies()) found.add(policy);
  }, 20);
  afterAll(() => clearInterval(look));

  it('is taken after the checks, a JPEG 640 pixels wide, of the page as Chromium shows it', async () => {
    await house.owner.bringIn(
      site,
      await zip({
        'index.html': html('Home', '<h1>Home</h1><p><a href="/long/">Long</a>'),
        'long/index.html': html('Long', '<h1>Long</h1><div style="height: 9000px"></div><a href="/">Home</a>'),
        'style.css': 'body { background: #fff; color: #111 }',
      }),
    );
    const { draft, live } = await taken(0);
    expect(Object.keys(draft).sort()).toEqual(['index.html', 'long/index.html']);
    expect(live).toEqual({});
    const { readPictureSize } = await import('@fastigium/core/picture');
    const home = await picture(draft['index.html']);
    expect(home).toMatchObject({ status: 200, type: 'image/jpeg' });
    expect(readPictureSize(home.bytes)).toEqual({ widthPx: 640, heightPx: 400 });
    // Cut at 3,200 CSS pixels.
    expect(readPictureSize((await picture(draft['long/index.html'])).bytes)).toEqual({ widthPx: 640, heightPx: 1600 });
  }, 120_000);

  it('is of another look after a change of the page, a style sheet or the release, and only then', async () => {
    const before = await pictures();
    let done = await jobsDone();
    await house.owner.publish(site);
    const published = await taken(done + 1);
    expect(published).toEqual({ draft: before.draft, live: before.draft });

    done = await jobsDone();
    const { id } = await house.owner.page(site, '/');
    await house.owner.decide(site, { kind: 'title', page: id, title: 'Another title' });
    const retitled = await taken(done + 1);
    expect(retitled.live).toEqual(before.draft);
    expect(retitled.draft['long/index.html']).toBe(before.draft['long/index.html']);
    // A title is in no picture: the look is another, what it looks like the same.
    expect(await difference(retitled.draft['index.html'], before.draft['index.html'])).toBeLessThan(1);
    expect(
      (
        await house.server.deps.db.many(
          `select p.appearance from page_picture p join page_appearance l using (site_id, appearance) where p.site_id = $1 and l.path = 'index.html'`,
          [site],
        )
      ).length,
    ).toBe(2);

    done = await jobsDone();
    await house.owner.bringIn(
      site,
      await zip({
        'index.html': html('Home', '<h1>Home</h1><p><a href="/long/">Long</a>'),
        'long/index.html': html('Long', '<h1>Long</h1><div style="height: 9000px"></div><a href="/">Home</a>'),
        'style.css': 'body { background: #000; color: #eee }',
      }),
    );
    const restyled = await taken(done + 1);
    expect(restyled.draft['long/index.html']).not.toBe(before.draft['long/index.html']);
    expect(await difference(before.draft['long/index.html'], restyled.draft['long/index.html'])).toBeGreaterThan(50);
  }, 180_000);

  it('asks nothing of anybody but the site: not of this machine, not of the application, not by script', async () => {
    const asked: string[] = [];
    const server = createServer((req, res) => {
      asked.push(req.url ?? '');
      res.end();
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const elsewhere = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    const reach = [elsewhere, elsewhere.replace('127.0.0.1', 'localhost'), house.owner.base]
      .map(
        (origin) =>
          `fetch('${origin}/by-fetch', { mode: 'no-cors' }).catch(() => {}); new Image().src = '${origin}/by-picture'; try { new WebSocket('${origin.replace('http', 'ws')}/by-socket') } catch {}`,
      )
      .join('\n');
    const done = await jobsDone();
    await house.owner.bringIn(
      site,
      await zip({
        'index.html': html(
          'Curious',
          `<h1 id="h">Curious</h1><img src="${elsewhere}/picture.png" alt=""><iframe src="${elsewhere}/frame" title="x"></iframe><script>${reach}; alert('stop'); open('${elsewhere}/window'); location = '${elsewhere}/away'</script>`,
        ),
        'style.css': '',
      }),
    );
    await taken(done + 1);
    server.close();
    expect(asked).toEqual([]);
  }, 60_000);

  it('is for those who may see the site', async () => {
    const { draft } = await pictures();
    const response = await fetch(
      `${house.owner.base}/api/sites/${site}/pictures/${Object.values(draft)[0] ?? 'f'.repeat(64)}`,
    );
    expect(response.status).toBe(401);
  });

  it('is taken by processes that let others go first, the pages’ own too, for nobody waits for it', () =>
    expect([...found]).toEqual([SCHED_IDLE]));
});
