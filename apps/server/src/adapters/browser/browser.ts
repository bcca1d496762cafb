/**
 * Debian's Chromium as a photographer. It meets pages nobody here wrote, so it may ask for nothing but what
 * it was sent to look at: every other name leads nowhere, and every other request is refused.
 */
import type { Browser, BrowserContext, Page } from 'playwright-core';
import { letOthersGoFirst } from './priority.ts';

/** In CSS pixels: a common desktop window, and where very long pages are cut. */
const WINDOW = { width: 1280, height: 800 } as const;
const MOST_HEIGHT = 3200;
/** Pictures are half as wide: enough to know a page and to see what differs. */
const SCALE = 0.5;
const QUALITY = 72;
const WITHIN_MS = 15_000;

export interface Photographer {
  /** A JPEG of the page at an address, 640 pixels wide. Throws where there is none in time. */
  take(url: string): Promise<Buffer>;
  close(): Promise<void>;
}

/** @param program path of Chromium; @param hosts names it may ask, such as `*.preview.localhost` */
export async function openPhotographer(program: string, hosts: string): Promise<Photographer> {
  // Loaded only where pictures are taken: it is large.
  const { chromium } = await import('playwright-core');
  const isRoot = process.getuid?.() === 0;
  const browser: Browser = await chromium.launch({
    executablePath: program, chromiumSandbox: !isRoot,
    args: ['--disable-gpu', '--disable-background-networking', '--force-webrtc-ip-handling-policy=disable_non_proxied_udp', `--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE ${hosts}`],
  });
  // Pages' own processes come out of those that stand now, and go on as they do.
  letOthersGoFirst(program);
  const context: BrowserContext = await browser.newContext({ viewport: WINDOW, deviceScaleFactor: SCALE, reducedMotion: 'reduce', acceptDownloads: false, serviceWorkers: 'block' });
  return {
    async take(url) {
      const { origin } = new URL(url);
      const page = await context.newPage();
      try {
        await page.route('**/*', (route) => (new URL(route.request().url()).origin === origin ? route.continue() : route.abort()));
        await page.routeWebSocket('**', (socket) => void socket.close());
        page.on('dialog', (dialog) => void dialog.dismiss().catch(() => {}));
        page.on('popup', (popup) => void popup.close().catch(() => {}));
        return await photograph(page, url);
      } finally {
        await page.close().catch(() => {});
      }
    },
    close: () => browser.close(),
  };
}

async function photograph(page: Page, url: string): Promise<Buffer> {
  await page.goto(url, { waitUntil: 'load', timeout: WITHIN_MS });
  const height = await page.evaluate('document.fonts.ready.then(() => document.documentElement.scrollHeight)');
  const clip = { x: 0, y: 0, width: WINDOW.width, height: Math.min(MOST_HEIGHT, Math.max(WINDOW.height, Number(height) || 0)) };
  return page.screenshot({ type: 'jpeg', quality: QUALITY, fullPage: true, clip, animations: 'disabled', timeout: WITHIN_MS });
}
