/** Acts by which pages come to stand elsewhere. */
import { linksOf } from '../anchors.ts';
import { AS_IMPORTED, wrongWith, type CheckedSite } from '../site.ts';
import { addressOf, isPage, letters } from '../source.ts';
import { decide, mostLinked, moved, pagesOf, rowAt, type Act } from './act.ts';

export const home: Act = {
  name: 'home',
  async run(site) {
    const [chosen] = mostLinked(site);
    if (chosen === undefined) return 'no other page';
    const front = pagesOf(site).find((path) => addressOf(path) === '/');
    const page = await rowAt(site, chosen);
    await decide(site, { kind: 'home', page: page.id });
    const former = front === undefined ? undefined : await rowAt(site, front);
    await site.publish();
    // What led to the front means home, whichever page it is; what led to an element in it follows the page.
    const follows = moved(
      site,
      new Map([[chosen, '/'], ...(front === undefined || !former ? [] : [[front, former.address] as const])]),
    );
    const wrong = await wrongWith(site, {
      ...follows,
      leadsOn: (address) => (/^\/(\?|$)/.test(address) ? address : follows.leadsOn(address)),
    });
    if (front !== undefined) wrong.push(...(await frontStays(site, front, former?.address ?? '')));
    return wrong;
  },
};

async function frontStays(site: CheckedSite, front: string, former: string): Promise<string[]> {
  const wrong: string[] = [];
  for (const path of pagesOf(site).slice(0, 40)) {
    if (path === front) continue;
    const address = addressOf(path);
    const was = linksOf(letters(site.files[path] as Uint8Array), address);
    const answer = await site.visit(address);
    if (answer.status !== 200) continue;
    const now = linksOf(letters(answer.bytes), address);
    was.forEach(({ to, words }, index) => {
      if (to === '/' && now[index]?.to !== '/')
        wrong.push(
          `${path}: “${words}” meant home and leads to ${now[index]?.to}${now[index]?.to === former ? ', the former one' : ''}`,
        );
    });
  }
  return wrong;
}

export const rename: Act = {
  name: 'rename',
  async run(site) {
    const [, second, first] = [0, ...mostLinked(site).slice(0, 2)] as [number, string?, string?];
    const chosen = first ?? second;
    if (chosen === undefined) return 'no other page';
    const page = await rowAt(site, chosen);
    await decide(site, { kind: 'rename', page: page.id, address: '/quite-another-name' });
    const rows = await site.client.pages(site.id);
    await site.publish();
    const places = new Map(
      rows
        .filter(({ kind, sourcePath }) => kind === 'page' && isPage(sourcePath))
        .map(({ sourcePath, address }) => [sourcePath, address] as const)
        .filter(([path, address]) => address !== addressOf(path)),
    );
    const wrong = await wrongWith(site, moved(site, places));
    const old = await site.visit(addressOf(chosen));
    if (old.location !== places.get(chosen))
      wrong.push(
        `${addressOf(chosen)} is answered ${old.status} ${old.location ?? ''} instead of being led to ${places.get(chosen)}`,
      );
    return wrong;
  },
};

export const moveBranch: Act = {
  name: 'move a branch',
  async run(site) {
    const rows = await site.client.pages(site.id);
    const branch =
      rows.find(
        ({ id, address, kind }) => kind === 'page' && address !== '/' && rows.some(({ parent }) => parent === id),
      ) ?? rows.find(({ sourcePath, address }) => address !== '/' && sourcePath !== '404.html');
    const target = rows.find(
      ({ id, address, kind, parent, sourcePath }) =>
        kind === 'page' &&
        id !== branch?.id &&
        address !== '/' &&
        parent === null &&
        sourcePath !== '404.html' &&
        !address.startsWith(branch?.address ?? '-'),
    );
    if (!branch || !target) return 'no branch';
    await decide(site, { kind: 'place', node: branch.id, parent: target.id, after: null });
    const now = await site.client.pages(site.id);
    await site.publish();
    const places = new Map(
      now
        .filter(({ kind, sourcePath }) => kind === 'page' && isPage(sourcePath))
        .map(({ sourcePath, address }) => [sourcePath, address] as const)
        .filter(([path, address]) => address !== addressOf(path)),
    );
    if (places.size === 0) return 'nothing moved';
    const wrong = await wrongWith(site, moved(site, places));
    return wrong;
  },
};

export const underPath: Act = {
  name: 'whole site under a path and back',
  async run(site) {
    await decide(site, { kind: 'base-path', path: '/quite/below' });
    await site.publish();
    const wrong = await wrongWith(site, {
      ...AS_IMPORTED,
      addressOf: (path) => `/quite/below${addressOf(path)}`,
      leadsOn: (address) => `/quite/below${address}`,
    });
    wrong.push(...(await ledOn(site, '', '/quite/below')));
    await decide(site, { kind: 'base-path', path: '' });
    await site.publish();
    wrong.push(
      ...(await wrongWith(site, AS_IMPORTED)).map((words) => `back: ${words}`),
      ...(await ledOn(site, '/quite/below', '')),
    );
    return wrong;
  },
};

/** Every address that was answered leads to the same file again, in few steps. */
async function ledOn(site: CheckedSite, from: string, to: string): Promise<string[]> {
  const wrong: string[] = [];
  for (const path of Object.keys(site.files)) {
    const address = addressOf(path);
    for (const asked of new Set([
      from + address,
      ...(address !== '/' && address.endsWith('/') ? [from + address.slice(0, -1)] : []),
    ])) {
      let at = asked;
      for (let hop = 0; hop < 3; hop += 1) {
        const { status, location } = await site.visit(at);
        if (status < 300 || status > 399 || location === undefined) break;
        at = location;
      }
      if (at !== to + address && !(path === '404.html' && at === asked))
        wrong.push(`${asked} ends at ${at} instead of ${to}${address}`);
    }
  }
  return wrong;
}
