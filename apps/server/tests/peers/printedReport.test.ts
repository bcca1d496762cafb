/** The report of a release as PDF, by Debian's Chromium; ISO 32000-1 says how a file begins and ends. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newLiveSite, openHouse, type House } from '../harness.ts';

let house: House;
let site: string;
const printed = (of: House, path: string) =>
  fetch(`${of.owner.base}/api/sites/${path}`, { headers: { cookie: of.owner.cookie } });

beforeAll(async () => {
  house = await openHouse({ env: { FASTIGIUM_CHROMIUM: '/usr/bin/chromium' } });
  site = await newLiveSite(house, 'Moor');
  for (let tries = 0; tries < 200; tries += 1) {
    const { body } = await house.owner.get<{ inspection: unknown }>(`/api/sites/${site}/releases/1/inspection`);
    if (body.inspection !== null) break;
    await new Promise((resolve) => {
      setTimeout(resolve, 50);
    });
  }
});
afterAll(() => house.stop());

describe('the report of a release, printed', () => {
  it('is a PDF with the report’s title, to be kept under its name', async () => {
    const answer = await printed(house, `${site}/releases/1/report.pdf`);
    const pdf = Buffer.from(await answer.arrayBuffer()).toString('latin1');
    expect([answer.status, answer.headers.get('content-type'), answer.headers.get('content-disposition')]).toEqual([
      200,
      'application/pdf',
      'attachment; filename=release-1.pdf',
    ]);
    expect(pdf.startsWith('%PDF-1.')).toBe(true);
    expect(pdf.trimEnd().endsWith('%%EOF')).toBe(true);
    // Text strings are UTF-16BE where they are not plain (ISO 32000-1, section 7.9.2.2).
    expect(
      /\/Title \((?:[^)]*Moor|[^)]*M\0o\0o\0r)/.test(pdf) ||
        pdf.includes(`/Title <FEFF${Buffer.from('Moor', 'utf16le').swap16().toString('hex').toUpperCase()}`),
    ).toBe(true);
  });

  it('of a release nobody looked at there is none', async () =>
    expect((await printed(house, `${site}/releases/9/report.pdf`)).status).toBe(404));
});
