/** Whether the root, each logo and each "Home" of the menus give the home page, asked of the live host. */
import { findAddressOfFile, splitAddress } from '@fastigium/core/address';
import { readAttribute, readBaseHref, walkElements, parsePage, collectText } from '@fastigium/core/html';
import {
  finding,
  findWaysHome,
  type Finding,
  type FindingMessage,
  type LiveLink,
  type PublishedMenu,
  type Question,
} from '@fastigium/core/inspection';
import { walkItems, type MenuItem } from '@fastigium/core/menus';
import type { Draft } from '@fastigium/core/site';
import { resolveLed } from '@fastigium/core/touches';
import { hashSha256 } from '../../threads/tasks.ts';
import type { Queries } from '../../db/database.ts';
import type { ReadLive } from '../../adapters/web/liveReader.ts';
import type { JobRun } from '../../jobs/queue.ts';
import { findMenuItems, readPagesOfItems, readSiteMenus } from '../draft/menus.ts';
import type { Entrance } from '../shared/entrance.ts';

/** Pages whose links are read; the same menu stands on the others. */
const MOST_PAGES = 200;
const MOST_PAGE_BYTES = 1024 * 1024; // 1 MiB
/** As many as browsers follow (fetch standard, section 4.4, HTTP-redirect fetch, step 6). */
const MOST_HOPS = 20;
const LIMITS = { bytes: 64 * 1024 * 1024, withinMs: 30_000 } as const;

/** The menus of a release in which something means the home page. */
export async function readMenusWithHome(tx: Queries, importId: string, draft: Draft): Promise<PublishedMenu[]> {
  const menus = await readSiteMenus(tx, importId);
  const pageAt = await readPagesOfItems(tx, importId, menus);
  return menus.flatMap((menu) => {
    const items = [...walkItems<MenuItem>(findMenuItems(draft, menu, pageAt))].filter(
      ({ removed }) => removed === undefined,
    );
    const home = items.flatMap(({ target }, index) => (target.kind === 'home' ? [index] : []));
    return home.length === 0 ? [] : [{ labels: items.map(({ label }) => label), home }];
  });
}

interface Way {
  readonly words: string;
  readonly url: URL;
  /** Addresses of the pages it stands on. */
  readonly pages: string[];
}

/** Gathers the ways home of pages as they come, each once for where it leads and what it says. */
export function gatherWaysHome(readLive: ReadLive, menus: readonly PublishedMenu[], basePath: string) {
  const ways = new Map<string, Way>();
  let read = 0;

  function readPage(url: URL, body: Buffer): void {
    if (read >= MOST_PAGES || body.length > MOST_PAGE_BYTES) return;
    read += 1;
    const document = parsePage(body);
    const base = readBaseHref(document);
    const anchors = [...walkElements(document.root)].filter(({ tagName }) => tagName === 'a' || tagName === 'area');
    const hrefs = anchors.map((anchor) => readAttribute(anchor, 'href'));
    const links = anchors.map((anchor, index): LiveLink => {
      const href = hrefs[index];
      return {
        words: collectText(anchor),
        leads: href === undefined || href.startsWith('#') ? undefined : resolveLed(href, url.pathname, base),
        hasPicture: [...walkElements(anchor)].some(({ tagName }) => tagName === 'img' || tagName === 'svg'),
      };
    });
    for (const { words, link } of findWaysHome(links, menus, basePath || '/')) {
      const to = URL.parse(hrefs[link] ?? '', URL.parse(base ?? '', url) ?? url);
      // What is written with another name is not the host's to answer.
      if (to?.origin !== url.origin) continue;
      to.hash = '';
      const key = `${words} ${to.href}`;
      const way = ways.get(key) ?? { words, url: to, pages: [] };
      way.pages.push(url.pathname);
      ways.set(key, way);
    }
  }

  /** @param home the question whose answer is the home page; where nobody is let in there, nothing is asked */
  async function ask(
    home: Question | undefined,
    entrance: Entrance,
    { signal }: Pick<JobRun, 'signal'>,
  ): Promise<{ asked: number; findings: Finding[] }> {
    if (!home || !isOpen(entrance, home)) return { asked: 0, findings: [] };
    const ends = new Map<string, FindingMessage | undefined>();
    const findings: Finding[] = [];
    for (const { words, url, pages } of ways.values()) {
      if (!ends.has(url.href)) ends.set(url.href, await findWhatIsWrong(readLive, url, home, entrance, signal));
      const wrong = ends.get(url.href);
      if (wrong === undefined) continue;
      const [first = '/', ...more] = pages;
      findings.push({
        aspect: 'home',
        address: first,
        message: finding('way-home', {
          way: words === '' ? finding('way-logo') : finding('way-named', { label: words }),
          leads: url.pathname + url.search,
          end: wrong,
          more: more.length,
        }),
        weight: 'wrong',
      });
    }
    return { asked: ways.size, findings };
  }

  return { readPage, ask };
}

const isOpen = (entrance: Entrance, { address, entry }: Question): boolean =>
  ['everyone', 'password'].includes(entrance.admit(splitAddress(address).path, entry.path).kind);

/** What a visitor gets there instead of the home page; undefined where it is the home page. */
async function findWhatIsWrong(
  readLive: ReadLive,
  from: URL,
  { entry }: Question,
  entrance: Entrance,
  signal: AbortSignal,
): Promise<FindingMessage | undefined> {
  let url = from;
  for (let hops = 0; hops <= MOST_HOPS; hops += 1) {
    try {
      const { status, location, body } = await readLive(
        url,
        LIMITS,
        signal,
        entrance.headersFor(splitAddress(url.pathname).path, entry.path),
      );
      if (status >= 300 && status < 400 && location !== undefined && URL.canParse(location, url)) {
        const next = new URL(location, url);
        if (next.host !== url.host) return finding('end-elsewhere', { to: next.href });
        url = next;
        continue;
      }
      if (status !== 200) return finding('status', { status });
      return hashSha256(body) === entry.hash
        ? undefined
        : finding('end-other-page', { home: findAddressOfFile(entry.path) });
    } catch (error) {
      signal.throwIfAborted();
      return finding('no-answer', { reason: error instanceof Error ? error.message.slice(0, 200) : 'unknown' });
    }
  }
  return finding('end-too-many', { count: MOST_HOPS });
}
