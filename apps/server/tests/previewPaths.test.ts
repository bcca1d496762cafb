/** Previews that share one name: each below a signed folder, in which everything leads to where it would lead live. */
import { parse } from 'parse5';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { askPort, openHouse, zip, type House } from './harness.ts';

const ORIGIN = 'https://previews.example';
const PAGE = `<!DOCTYPE html><html lang="en"><head><title>A</title><link rel="stylesheet" href="/a.css"><style>p{background:url(/b.png)}</style></head><body><a href="/b/">B</a><a href="b/">B</a><a href="//other.example/x">X</a><a href="https://other.example/">Y</a><a href="#x">x</a><img src='/c.png' srcset="/c.png 1x, d.png 2x" alt=""><form action="/send"></form><p style="background:url('/e.png')">/not/a/link</p></body></html>`;
let house: House;
let site: string;

beforeAll(async () => {
  house = await openHouse({ env: { FASTIGIUM_PREVIEW_URL: ORIGIN } });
  site = await house.owner.newSite('Shared name');
  await house.owner.bringIn(
    site,
    await zip({
      'index.html': PAGE,
      'b/index.html': '<!DOCTYPE html><html lang="en"><head><base href="/b/"><title>B</title></head><p>B</p></html>',
      'a.css':
        '@import "/more.css";a{background:url(/b.png)}b{background:url(b.png)}c{background:url(//other.example/x)}',
    }),
  );
  await house.owner.decide(site, {
    kind: 'redirect',
    from: '/old',
    to: { status: 302, target: { kind: 'address', address: '/b/' } },
  });
});
afterAll(() => house.stop());

const originOf = async (mode: string) =>
  (await house.owner.post<{ origins: Record<string, string> }>(`/api/sites/${site}/previews`)).body.origins[mode] ?? '';
const ask = async (url: string, host = 'previews.example') =>
  askPort(house.server.previewPort, new URL(url).pathname, { host });

it('stand under that name, and are framed from there alone', async () => {
  const origin = await originOf('seen');
  expect(origin).toMatch(/^https:\/\/previews\.example\/[a-v0-9]{52}-s$/);
  const { headers } = await house.owner.get('/api/session');
  expect(headers.get('content-security-policy')).toContain(`frame-src ${ORIGIN};`);
});

it('say what is said from the root from their folder, and leave everything else as it is', async () => {
  const origin = await originOf('seen');
  const under = new URL(origin).pathname;
  const { status, body } = await ask(`${origin}/`);
  expect(status).toBe(200);
  expect(body).toBe(
    PAGE.replace('href="/a.css"', `href="${under}/a.css"`)
      .replace('url(/b.png)', `url(${under}/b.png)`)
      .replace('href="/b/"', `href="${under}/b/"`)
      .replace("src='/c.png'", `src='${under}/c.png'`)
      .replace('srcset="/c.png', `srcset="${under}/c.png`)
      .replace('action="/send"', `action="${under}/send"`)
      .replace("url('/e.png')", `url('${under}/e.png')`),
  );
  expect((await ask(`${origin}/b/`)).body).toContain(`<base href="${under}/b/">`);
  expect((await ask(`${origin}/a.css`)).body).toBe(
    `@import "${under}/more.css";a{background:url(${under}/b.png)}b{background:url(b.png)}c{background:url(//other.example/x)}`,
  );
  expect((await ask(`${origin}/old`)).headers.location).toBe(`${under}/b/`);
});

it('can be pointed at, with the same places in the source', async () => {
  const origin = await originOf('pointing');
  const { body } = await ask(`${origin}/`);
  expect(body).toContain('data-fastigium-at=');
  expect(body).toContain(`href="${new URL(origin).pathname}/b/"`);
  expect(() => parse(body)).not.toThrow();
});

it('need the folder that was signed, and that name', async () => {
  const origin = await originOf('seen');
  const forged = origin.replace(
    /\/(.)([a-v0-9]{51}-s)$/,
    (_, first: string, rest: string) => `/${first === '0' ? '1' : '0'}${rest}`,
  );
  expect((await ask(`${forged}/`)).status).toBe(403);
  expect((await ask(`${ORIGIN}/`)).status).toBe(403);
  expect((await ask(`${origin}/`, 'evil.example')).status).toBe(403);
  // Another mode is another permission of the same signature, as with names; a letter nobody knows is none.
  expect((await ask(`${origin.replace(/-s$/, '-z')}/`)).status).toBe(403);
});
