/**
 * Debian's Chromium as a photographer. It meets pages nobody here wrote, so it has no network: what it was sent to look
 * at is handed in, and nothing else is there (`contained.ts`).
 */
import type { Browser, BrowserContext, Page } from 'playwright-core';
import { contain, handInAddress } from './contained.ts';
import { letOthersGoFirst } from './priority.ts';

/** In CSS pixels: a common desktop window, and where very long pages are cut. */
const WINDOW = { width: 1280, height: 800 } as const;
const MOST_HEIGHT = 3200;
/** Pictures are half as wide: enough to know a page and to see what differs. */
const SCALE = 0.5;
const QUALITY = 72;
/** Long, for whoever lets all others go first waits for them. */
const WITHIN_MS = 60_000;
/** One change seldom comes alone, and the browser is dear to start. */
const STAYS_MS = 30_000;

/** Takes pictures of one site; what its pages leave behind, no other site's meet. */
export interface Photographer {
  /** A JPEG of the page at an address, 640 pixels wide. Throws where there is none in time. */
  take(url: string): Promise<Buffer>;
  leave(): Promise<void>;
}

export interface Studio {
  /**
   * The browser is started for the first who comes, and closed some time after the last has left.
   * @param origin the only one that is there for its pages
   */
  enter(origin: string): Promise<Photographer>;
  close(): Promise<void>;
}

/** @param program path of Chromium; @param address where this machine answers for what is looked at */
export function openStudio(program: string, address: string): Studio {
  let browser: Promise<Browser> | undefined;
  let inside = 0;
  let empty: NodeJS.Timeout | undefined;
  const shut = async () => {
    const open = browser;
    browser = undefined;
    await (await open?.catch(() => undefined))?.close();
  };
  /** Whoever comes while it is being started waits for the same one; one that has ended is started anew. */
  const standing = (): Promise<Browser> => {
    browser = (browser ?? Promise.resolve(undefined))
      .catch(() => undefined)
      .then((found) => (found?.isConnected() ? found : launch(program)));
    return browser;
  };
  const shutUnasked = () => {
    shut().catch(() => undefined);
  };
  return {
    async enter(origin) {
      clearTimeout(empty);
      inside += 1;
      const leave = () => {
        inside -= 1;
        if (inside === 0) empty = setTimeout(shutUnasked, STAYS_MS).unref();
      };
      try {
        const context = await (
          await standing()
        ).newContext({
          viewport: WINDOW,
          deviceScaleFactor: SCALE,
          reducedMotion: 'reduce',
          acceptDownloads: false,
          serviceWorkers: 'block',
        });
        await handInAddress(context, origin, address);
        return createPhotographer(context, leave);
      } catch (error) {
        leave();
        throw error;
      }
    },
    async close() {
      clearTimeout(empty);
      await shut();
    },
  };
}

async function launch(program: string): Promise<Browser> {
  // Loaded only where pictures are taken: it is large.
  const { chromium } = await import('playwright-core');
  const isRoot = process.getuid?.() === 0;
  const contained = await contain(program);
  const browser = await chromium.launch({
    executablePath: contained.program,
    chromiumSandbox: !isRoot,
    args: [
      '--disable-gpu',
      '--disable-background-networking',
      '--force-webrtc-ip-handling-policy=disable_non_proxied_udp',
      '--host-resolver-rules=MAP * ~NOTFOUND',
      ...contained.args,
    ],
  });
  browser.once('disconnected', () => void contained.remove().catch(() => {}));
  // Pages' own processes come out of those that stand now, and go on as they do.
  await letOthersGoFirst(program);
  return browser;
}

function createPhotographer(context: BrowserContext, left: () => void): Photographer {
  /** Tabs that nobody looks at now: opening one takes as long as showing a page of middle size. */
  const free: Page[] = [];
  return {
    async take(url) {
      const page = free.pop() ?? (await openTab(context));
      try {
        const picture = await photograph(page, url);
        free.push(page);
        return picture;
      } catch (error) {
        // Whatever it met, the next page meets a tab of its own.
        await page.close().catch(() => {});
        throw error;
      }
    },
    async leave() {
      await context.close().catch(() => {});
      left();
    },
  };
}

async function openTab(context: BrowserContext): Promise<Page> {
  const page = await context.newPage();
  // Whatever is asked, the answer is no; but a tab is always left.
  page.on(
    'dialog',
    (dialog) => void (dialog.type() === 'beforeunload' ? dialog.accept() : dialog.dismiss()).catch(() => {}),
  );
  page.on('popup', (popup) => void popup.close().catch(() => {}));
  return page;
}

async function photograph(page: Page, url: string): Promise<Buffer> {
  await page.goto(url, { waitUntil: 'load', timeout: WITHIN_MS });
  const height = await page.evaluate('document.fonts.ready.then(() => document.documentElement.scrollHeight)');
  const clip = {
    x: 0,
    y: 0,
    width: WINDOW.width,
    height: Math.min(MOST_HEIGHT, Math.max(WINDOW.height, Number(height) || 0)),
  };
  return page.screenshot({
    type: 'jpeg',
    quality: QUALITY,
    fullPage: true,
    clip,
    animations: 'disabled',
    timeout: WITHIN_MS,
  });
}
