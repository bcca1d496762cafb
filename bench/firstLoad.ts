/** Script and style a browser loads before the sign-in shows and before the first station does, gzip. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import type { Session } from '@fastigium/contracts/api/session';
import { chromium } from '@playwright/test';
import express from 'express';
import type { AddressInfo } from 'node:net';
import type { Figure } from './figures.ts';

const dist = new URL('../apps/web/dist/', import.meta.url).pathname;

/** The scripts and styles asked for until the network is quiet, measured by what lies on the disk. @param shown what stands on that page */
async function loaded(path: string, shown: string, api: (url: string) => unknown): Promise<number> {
  const app = express();
  app.use('/api', (req, res) => void res.json(api(req.url)));
  app.use(express.static(dist, { index: false }));
  app.use((_req, res) => void res.type('html').send(readFileSync(join(dist, 'index.html'), 'utf8')));
  const server = app.listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  });
  try {
    const page = await browser.newPage();
    const asked = new Set<string>();
    page.on('request', (request) => {
      if (/\.(js|css)$/.test(new URL(request.url()).pathname)) asked.add(new URL(request.url()).pathname);
    });
    await page.goto(`http://127.0.0.1:${(server.address() as AddressInfo).port}${path}`, { waitUntil: 'networkidle' });
    // Another page than the one meant would be another figure.
    await page.getByRole('heading', { name: shown }).or(page.getByLabel(shown)).first().waitFor();
    if (asked.size === 0) throw new Error('nothing was loaded');
    return [...asked].reduce((sum, file) => sum + gzipSync(readFileSync(join(dist, file)), { level: 9 }).length, 0);
  } finally {
    await browser.close();
    server.close();
  }
}

export async function firstLoadBench(): Promise<Figure[]> {
  const session: Session = {
    person: null,
    csrfToken: 'x',
    needsOwner: false,
    demo: null,
    hasMail: false,
    second: null,
  };
  const person = {
    id: '00000000-0000-4000-8000-000000000000',
    name: 'A',
    initials: 'A',
    email: 'a@b.example',
    role: 'owner',
  };
  const figure = (name: string, bytes: number): Figure => ({
    name,
    value: bytes / 1000,
    unit: 'kB',
    most: 350,
    from: `${bytes} B`,
  });
  return [
    figure('first load, sign-in: script and style', await loaded('/sign-in', 'E-mail', () => session)),
    figure(
      'first load, list of sites: script and style',
      await loaded('/sites', 'Sites', (url) => (url.startsWith('/session') ? { ...session, person } : [])),
    ),
  ];
}
