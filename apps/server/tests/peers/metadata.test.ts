/**
 * Metadata against others: Chromium's own measuring of titles, the sitemaps.org schema by xmllint, and a package
 * that reads pages' metadata. Sites and names are invented.
 */
import type { Metadata } from '@fastigium/contracts/api/metadata';
import { isMeasured, measureTitlePx } from '@fastigium/core/head';
import { writeSitemaps } from '@fastigium/core/sitemap';
import fc from 'fast-check';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { chromium, type Browser, type Page } from 'playwright-core';
import sharp from 'sharp';
import urlMetadata from 'url-metadata';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openHouse, zip, type House } from '../harness.ts';

describe('the width of a title', () => {
  const folder = dirname(createRequire(import.meta.url).resolve('@fontsource/arimo/package.json'));
  const ranges = JSON.parse(readFileSync(join(folder, 'unicode.json'), 'utf8')) as Record<string, string>;
  const SUBSETS = ['latin', 'latin-ext', 'greek', 'greek-ext', 'cyrillic', 'cyrillic-ext', 'vietnamese'];
  let browser: Browser;
  let page: Page;
  beforeAll(async () => {
    browser = await chromium.launch({
      executablePath: '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-dev-shm-usage'],
    });
    page = await browser.newPage();
    const faces = SUBSETS.map(
      (subset) =>
        `@font-face { font-family: Arimo; unicode-range: ${ranges[subset] ?? ''}; src: url(data:font/woff2;base64,${readFileSync(join(folder, 'files', `arimo-${subset}-400-normal.woff2`)).toString('base64')}) }`,
    ).join('\n');
    // Only letters that are there: without them, those of another font would be measured.
    await page.setContent(
      `<style>${faces}</style><span id="t" style="font: 20px Arimo; white-space: pre; font-kerning: normal"></span>`,
    );
    await page.evaluate(
      `Promise.all(['a', 'ŵ', 'Ω', 'Ж', 'ἀ', 'ệ', 'Ꙋ'].map((text) => document.fonts.load('20px Arimo', text)))`,
    );
  }, 60_000);
  afterAll(() => browser.close());

  const measured = (texts: readonly string[]) =>
    page.evaluate(
      `(${JSON.stringify(texts)}).map((text) => { const t = document.getElementById('t'); t.textContent = text; return t.getBoundingClientRect().width; })`,
    ) as Promise<number[]>;

  it.each([
    [
      [
        'AVATAR To Te Ty. WAVE “Quoted” – 1/2',
        'Ymweld ag Arsyllfa’r rhos · Tŷ’r sêr',
        'Обсерватория на болоте',
        'Αστεροσκοπείο στον βάλτο',
        'Đài thiên văn trên đồng hoang',
        'Larghetto fi fl ffi & co. (11:45)',
      ],
    ],
  ])('is what Chromium measures, within a pixel', async (texts) => {
    const widths = await measured(texts);
    for (const [index, text] of texts.entries()) {
      expect(isMeasured(text), text).toBe(true);
      expect(Math.abs(measureTitlePx(text) - (widths[index] ?? 0)), text).toBeLessThanOrEqual(1);
    }
  });

  it('also for whatever letters come together (property)', async () => {
    const letters = [
      ..."abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789 .,:;-–—·|/&()'’“”!?éèüßÅÆœŵŷıġĀžЖяфщЁΩβσίΆế",
    ];
    await fc.assert(
      fc.asyncProperty(
        fc.array(
          fc
            .array(fc.constantFrom(...letters), { minLength: 1, maxLength: 70 })
            .map((all) => all.join('').trim().replace(/ +/g, ' '))
            .filter((text) => text !== ''),
          { minLength: 1, maxLength: 30 },
        ),
        async (texts) => {
          const widths = await measured(texts);
          for (const [index, text] of texts.entries())
            expect(Math.abs(measureTitlePx(text) - (widths[index] ?? 0)), text).toBeLessThanOrEqual(1);
        },
      ),
      { numRuns: 60, examples: [[['я Aa', 'Aa я', '– Ты To', 'AVя·Ta']]] },
    );
  });
});

describe('a sitemap', () => {
  const SCHEMA = new URL('../../../../packages/core/testdata/sitemap/sitemap.xsd', import.meta.url).pathname;
  const folder = mkdtempSync(join(tmpdir(), 'fastigium-sitemap-'));
  afterAll(() => {
    rmSync(folder, { recursive: true });
  });
  // The protocol's schema wants a schema for every other element too; it has none for links to other languages.
  const withLinks = join(folder, 'with-links.xsd');
  writeFileSync(
    join(folder, 'links.xsd'),
    '<xsd:schema xmlns:xsd="http://www.w3.org/2001/XMLSchema" targetNamespace="http://www.w3.org/1999/xhtml"><xsd:element name="link"><xsd:complexType><xsd:attribute name="rel" use="required"/><xsd:attribute name="hreflang" type="xsd:string" use="required"/><xsd:attribute name="href" type="xsd:anyURI" use="required"/></xsd:complexType></xsd:element></xsd:schema>',
  );
  writeFileSync(
    withLinks,
    `<xsd:schema xmlns:xsd="http://www.w3.org/2001/XMLSchema"><xsd:import namespace="http://www.sitemaps.org/schemas/sitemap/0.9" schemaLocation="${SCHEMA}"/><xsd:import namespace="http://www.w3.org/1999/xhtml" schemaLocation="links.xsd"/></xsd:schema>`,
  );
  const validate = (text: string, schema: string) => {
    const file = join(folder, 'sitemap.xml');
    writeFileSync(file, text);
    execFileSync('xmllint', ['--noout', '--schema', schema, file], { stdio: 'pipe' });
  };

  // Addresses of pages always have a path, if only a slash; without one the shortest is too short for the schema.
  it('holds by the schema of the protocol, whatever the addresses (property)', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.webUrl({ withQueryParameters: true, withFragments: false }).map((url) => new URL(url).href),
            fc.option(fc.constantFrom('2026-01-02', '2024-02-29'), { nil: undefined }),
          ),
          { minLength: 1 },
        ),
        (pages) => {
          const [file] = writeSitemaps(
            pages.map(([url, changed]) => ({ url, changed, alternates: [] })),
            'https://moor.example/',
          );
          validate(file?.text ?? '', SCHEMA);
          const [linked] = writeSitemaps(
            pages.map(([url, changed]) => ({
              url,
              changed,
              alternates: [
                { language: 'en', url },
                { language: 'cy', url: `${url}&cy` },
              ],
            })),
            'https://moor.example/',
          );
          validate(linked?.text ?? '', withLinks);
        },
      ),
      { numRuns: 25 },
    );
  });

  it('that is none is refused by it, so that the check can fail', () =>
    expect(() => {
      validate(
        '<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"><url><lastmod>yesterday</lastmod></url></urlset>',
        SCHEMA,
      );
    }).toThrow());
});

describe('a page that is live', () => {
  let house: House;
  beforeAll(async () => {
    house = await openHouse();
  });
  afterAll(() => house.stop());

  it('is read by others as it was set', async () => {
    const site = await house.owner.newSite('Read');
    await house.owner.bringIn(
      site,
      await zip({
        'index.html':
          '<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Front</title></head><body><main><h1>Front</h1><p>Words enough for a page of a test.</p></main></body></html>',
        'share.png': await sharp({ create: { width: 1200, height: 630, channels: 3, background: '#2e4c8a' } })
          .png()
          .toBuffer(),
      }),
    );
    await house.server.deps.db.run(
      `insert into domain (site_id, name, zone, role, connected_by, connected_at) select $1, 'read.example', 'read.example', 'own', id, now() from person limit 1`,
      [site],
    );
    const settings = [
      ['share', 'on'],
      ['canonical', 'on'],
      ['meta:og:image', '/share.png'],
      ['meta:author', 'Ada “the first” <Stone> & Co'],
      ['meta:description', 'Quotes " and <tags> & 🏠, \u202eturned round\u202c.'],
      ['data', '{"@context":"https://schema.org","@type":"Organization","name":"</script><b>Stone"}'],
    ].map(([name, text]) => ({ scope: { kind: 'everywhere' }, name, text, own: null }));
    expect((await house.owner.decide(site, { kind: 'head', settings })).status).toBe(201);
    const { version } = (await house.owner.get<Metadata>(`/api/sites/${site}/metadata`)).body;
    const icon = await sharp({ create: { width: 512, height: 512, channels: 4, background: '#a63f27' } })
      .png()
      .toBuffer();
    expect(
      (
        await house.owner.send('POST', `/api/sites/${site}/metadata/icons?version=${version}`, icon, {
          'content-type': 'application/octet-stream',
        })
      ).status,
    ).toBe(201);
    expect((await house.owner.publish(site)).state).toBe('done');
    const { liveUrl } = await house.owner.overview(site);
    const { body } = await house.visit(new URL(liveUrl ?? '').hostname, '/');
    const read = (await urlMetadata(null as unknown as string, {
      parseResponseObject: new Response(body, { headers: { 'content-type': 'text/html; charset=utf-8' } }),
    })) as Record<string, unknown>;
    expect(read).toMatchObject({
      title: 'Front',
      lang: 'en',
      author: 'Ada “the first” <Stone> & Co',
      description: 'Quotes " and <tags> & 🏠, \u202eturned round\u202c.',
      'og:title': 'Front',
      'og:type': 'website',
      'og:site_name': 'Read',
      'og:image:width': '1200',
      'og:image:height': '630',
      'og:description': 'Quotes " and <tags> & 🏠, \u202eturned round\u202c.',
    });
    expect(String(read['canonical'])).toMatch(/^https:\/\/(www\.)?read\.example\/$/);
    expect(String(read['og:image'])).toMatch(/^https:\/\/(www\.)?read\.example\/share\.png$/);
    expect(JSON.stringify(read['jsonld'])).toContain('</script><b>Stone');
    expect(JSON.stringify(read['favicons'])).toContain('apple-touch-icon');
  });
});
