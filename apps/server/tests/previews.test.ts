/**
 * Documents in previews: what a page embeds is shown in it although no browser shows a PDF in a page that is shut off. The
 * document is Debian's own, from the package developers-reference; pictures are read by pngjs, a reference of its own.
 */
import { readFileSync } from 'node:fs';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { askPort, letBe, openHouse, zip, type House } from './harness.ts';

const PDF = readFileSync('/usr/share/developers-reference/developers-reference.pdf');
const EMBEDS = `<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><title>Papers</title></head><body>
<iframe src="papers/guide.pdf"></iframe>
<embed src="papers/guide.pdf?v=2" type="application/pdf" width="400">
<object data="papers/guide.pdf" width="400">No document</object>
<object data="map.svg" type="image/svg+xml">No map</object>
<embed src="film.mp4">
</body></html>`;

let house: House;
let site: string;
beforeAll(async () => {
  house = await openHouse();
  site = await house.owner.newSite('Papers');
  await house.owner.bringIn(
    site,
    await zip({
      'index.html': EMBEDS,
      'papers/guide.pdf': PDF,
      'papers/torn.pdf': 'no document at all',
      'map.svg': '<svg/>',
    }),
  );
});
afterAll(() => house.stop());

async function ask(mode: 'seen' | 'still' | 'pointing', path: string, destination?: string) {
  const { body } = await house.owner.post<{ origins: Record<string, string> }>(`/api/sites/${site}/previews`);
  const { host } = new URL(body.origins[mode] ?? '');
  const { status, headers, bytes } = await askPort(house.server.previewPort, path, {
    host,
    ...(destination === undefined ? {} : { 'sec-fetch-dest': destination }),
  });
  return { status, type: String(headers['content-type']), bytes };
}

describe('a document in a page', () => {
  it('is shown by its first pages where it stands', async () => {
    const { type, bytes } = await ask('seen', '/papers/guide.pdf', 'iframe');
    expect(type).toMatch(/^text\/html/);
    const pictures = [...bytes.toString().matchAll(/<img src="data:image\/png;base64,([^"]+)" alt="Page (\d)/g)];
    expect(pictures.map(([, , number]) => number)).toEqual(['1', '2', '3', '4', '5']);
    const first = PNG.sync.read(Buffer.from(pictures[0]?.[1] ?? '', 'base64'));
    expect(first.width).toBe(900);
    // Its title page has ink on it, and is not all ink.
    const dark = first.data.filter((value, at) => at % 4 === 0 && value < 100).length;
    expect(dark).toBeGreaterThan(500);
    expect(dark).toBeLessThan((first.width * first.height) / 4);
    expect(bytes.toString()).toMatch(/and \d+ more pages on the live site/);
  });

  it('is itself, byte for byte, for whoever opens it by itself', async () => {
    for (const destination of ['document', undefined]) {
      const { type, bytes } = await ask('seen', '/papers/guide.pdf', destination);
      expect([type, bytes.equals(PDF)]).toEqual(['application/pdf', true]);
    }
  });

  it.each(['iframe', 'frame', 'embed', 'object'])('that cannot be read says so in its %s', async (destination) => {
    const { status, type, bytes } = await ask('still', '/papers/torn.pdf', destination);
    expect([status, type]).toEqual([200, 'text/html; charset=utf-8']);
    expect(bytes.toString()).toContain('torn.pdf cannot be read as a document');
  });

  it('is asked for as a page, and nothing else of the page differs', async () => {
    const shown = EMBEDS.replace('type="application/pdf"', 'type="text/html"').replace(
      '<object data="papers',
      '<object type="text/html" data="papers',
    );
    expect((await ask('seen', '/', 'iframe')).bytes.toString()).toBe(shown);
    expect((await ask('pointing', '/', 'iframe')).bytes.toString()).toContain('type="text/html"');
    // What goes live is the page as it was.
    await letBe(house, site);
    expect((await house.owner.publish(site)).state).toBe('done');
    const { hostName } = await house.owner.overview(site);
    expect((await house.visit(`${hostName}.localhost`, '/')).body).toBe(EMBEDS);
  });
});
