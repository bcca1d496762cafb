/** The twelve acts that designers do most, each with what it may change and what every link has to lead to afterwards. */
import type { PageRow } from '../../packages/contracts/src/api/draft.ts';
import type { MenuRow, PageInside, Pointed } from '../../packages/contracts/src/api/pages.ts';
import { Parser } from 'htmlparser2';
import { linksOf, runOf } from './anchors.ts';
import { AS_IMPORTED, difference, foldersOf, wrongWith, type CheckedSite, type Expected } from './site.ts';
import { addressesIn, addressOf, isPage, leadsTo, letters, refsOf, type Ref } from './source.ts';

export interface ActContext extends CheckedSite {
  /** Publishes the draft, with whatever holds it let be. */
  publish(): Promise<void>;
  readonly zip: (files: Readonly<Record<string, string | Uint8Array>>) => Promise<Uint8Array>;
}

/** What is wrong after an act, in words; a text alone where the site has nothing for it. */
export type Outcome = readonly string[] | string;

export interface Act {
  readonly name: string;
  run(site: ActContext): Promise<Outcome>;
}

async function decide({ client, id }: CheckedSite, decision: object): Promise<{ made?: string }> {
  const { status, body } = await client.decide(id, decision);
  if (status !== 201) throw new Error(`${JSON.stringify(decision).slice(0, 200)} was answered ${JSON.stringify(body)}`);
  return body as { made?: string };
}

async function back(site: CheckedSite, steps = 1): Promise<void> {
  for (let n = 0; n < steps; n += 1) await decide(site, { kind: 'step', direction: 'back' });
}

const pagesOf = ({ files }: CheckedSite): string[] => Object.keys(files).filter(isPage).sort();
const rowAt = async ({ client, id }: CheckedSite, path: string): Promise<PageRow> => {
  const row = (await client.pages(id)).find(({ sourcePath }) => sourcePath === path);
  if (!row) throw new Error(`${path} is no page of the draft`);
  return row;
};

/** How often each address is led to from other pages, the most first. */
function mostLinked(site: CheckedSite): string[] {
  const counts = new Map<string, number>();
  for (const path of pagesOf(site)) {
    for (const { to } of linksOf(letters(site.files[path] as Uint8Array), addressOf(path))) {
      const plain = to.replace(/[?#].*$/s, '');
      if (plain !== addressOf(path)) counts.set(plain, (counts.get(plain) ?? 0) + 1);
    }
  }
  return pagesOf(site).filter((path) => addressOf(path) !== '/' && !/(^|\/)404\.html?$/.test(path)).sort((a, b) => (counts.get(addressOf(b)) ?? 0) - (counts.get(addressOf(a)) ?? 0));
}

/** Everything as it was but some pages that stand elsewhere. */
function moved(site: CheckedSite, places: ReadonlyMap<string, string>, more: Partial<Expected> = {}): Expected {
  const byAddress = new Map([...places].map(([path, to]) => [addressOf(path), to]));
  const folders = foldersOf(site.files);
  return {
    ...AS_IMPORTED, ...more,
    addressOf: (path) => places.get(path) ?? addressOf(path),
    leadsOn: (address) => {
      const [, path = '', rest = ''] = /^([^?#]*)(.*)$/s.exec(address) ?? [];
      return (byAddress.get(path) ?? byAddress.get(folders.has(`${path}/`) ? `${path}/` : path) ?? path) + rest;
    },
  };
}

const home: Act = {
  name: 'home',
  async run(site) {
    const [chosen] = mostLinked(site);
    if (chosen === undefined) return 'no other page';
    const front = pagesOf(site).find((path) => addressOf(path) === '/');
    const page = await rowAt(site, chosen);
    await decide(site, { kind: 'home', page: page.id });
    const former = front === undefined ? undefined : await rowAt(site, front);
    await site.publish();
    // What led to the front means home, whichever page it is.
    const wrong = await wrongWith(site, moved(site, new Map([[chosen, '/'], ...(front === undefined || !former ? [] : [[front, former.address] as const])]), {}));
    const front_ = front === undefined ? [] : await frontStays(site, front, former?.address ?? '');
    await back(site);
    return [...wrong.filter((words) => !leadsToHome(words)), ...front_];
  },
};

/** The page that was home has moved, but "/" has not: the checker's rule for moved pages does not know that. */
const leadsToHome = (words: string): boolean => / led to \/(index\.html?)? and leads to \/(index\.html?)? instead of /.test(words);

async function frontStays(site: CheckedSite, front: string, former: string): Promise<string[]> {
  const wrong: string[] = [];
  for (const path of pagesOf(site).slice(0, 40)) {
    if (path === front) continue;
    const address = addressOf(path);
    const was = linksOf(letters(site.files[path] as Uint8Array), address);
    const answer = await site.visit(address);
    if (answer.status !== 200) continue;
    const now = linksOf(letters(answer.bytes), address);
    was.forEach(({ to, words }, index) => { if (to === '/' && now[index]?.to !== '/') wrong.push(`${path}: “${words}” meant home and leads to ${now[index]?.to}${now[index]?.to === former ? ', the former one' : ''}`); });
  }
  return wrong;
}

const rename: Act = {
  name: 'rename',
  async run(site) {
    const [, second, first] = [0, ...mostLinked(site).slice(0, 2)] as [number, string?, string?];
    const chosen = first ?? second;
    if (chosen === undefined) return 'no other page';
    const page = await rowAt(site, chosen);
    await decide(site, { kind: 'rename', page: page.id, address: '/quite-another-name' });
    const rows = await site.client.pages(site.id);
    await site.publish();
    const places = new Map(rows.filter(({ kind, sourcePath }) => kind === 'page' && isPage(sourcePath)).map(({ sourcePath, address }) => [sourcePath, address] as const).filter(([path, address]) => address !== addressOf(path)));
    const wrong = await wrongWith(site, moved(site, places));
    const old = await site.visit(addressOf(chosen));
    if (old.location !== places.get(chosen)) wrong.push(`${addressOf(chosen)} is answered ${old.status} ${old.location ?? ''} instead of being led to ${places.get(chosen)}`);
    await back(site);
    return wrong;
  },
};

const moveBranch: Act = {
  name: 'move a branch',
  async run(site) {
    const rows = await site.client.pages(site.id);
    const branch = rows.find(({ id, address, kind }) => kind === 'page' && address !== '/' && rows.some(({ parent }) => parent === id)) ?? rows.find(({ sourcePath, address }) => address !== '/' && sourcePath !== '404.html');
    const target = rows.find(({ id, address, kind, parent, sourcePath }) => kind === 'page' && id !== branch?.id && address !== '/' && parent === null && sourcePath !== '404.html' && !address.startsWith(branch?.address ?? '-'));
    if (!branch || !target) return 'no branch';
    await decide(site, { kind: 'place', node: branch.id, parent: target.id, after: null });
    const now = await site.client.pages(site.id);
    await site.publish();
    const places = new Map(now.filter(({ kind, sourcePath }) => kind === 'page' && isPage(sourcePath)).map(({ sourcePath, address }) => [sourcePath, address] as const).filter(([path, address]) => address !== addressOf(path)));
    if (places.size === 0) return 'nothing moved';
    const wrong = await wrongWith(site, moved(site, places));
    await back(site);
    return wrong;
  },
};

type Items = MenuRow['items'];

async function menuAct(site: ActContext, change: (items: Items, page: PageRow) => { items: Items; labels: readonly string[] } | undefined): Promise<Outcome> {
  const { body } = await site.client.get<{ menus: MenuRow[] }>(`/api/sites/${site.id}/menus`);
  const menu = body.menus.find(({ items }) => items.filter(({ target }) => target.kind !== 'none').length >= 3) ?? body.menus.find(({ items }) => items.length >= 3);
  if (!menu) return 'no menu';
  const rows = await site.client.pages(site.id);
  const outside = rows.find(({ kind, menus, address, sourcePath }) => kind === 'page' && menus.length === 0 && address !== '/' && sourcePath !== '404.html') ?? rows[0];
  if (!outside) return 'no page';
  const changed = change(menu.items, outside);
  if (!changed) return 'too few items';
  await decide(site, { kind: 'menu', menu: menu.id, items: changed.items, whereItDiffers: false });
  await site.publish();
  const labels = menu.items.flatMap(function flat(item): string[] { return [item.label, ...item.children.flatMap(flat)]; });
  const wrong: string[] = [];
  let reached = 0;
  for (const path of Object.keys(site.files)) {
    const address = addressOf(path);
    const answer = await site.visit(address);
    const before = letters(site.files[path] as Uint8Array);
    const after = letters(answer.bytes);
    if (before === after) continue;
    const [was, now] = [linksOf(before, address), linksOf(after, address)];
    const run = isPage(path) ? runOf(was, labels) : undefined;
    if (!run) {
      wrong.push(`${path}: has no such menu and was changed: ${difference(before, after)}`);
      continue;
    }
    reached += 1;
    const tail = was.length - run.to;
    const inMenu = now.slice(run.from, now.length - tail);
    const said = inMenu.map(({ words }) => words);
    // The item of the page itself may be words alone, as it was or as it is on other pages.
    const isOwn = (label: string) => !run.labels.includes(label) && (labels.includes(label) || labels.length === run.labels.length + 1 || address === outside.address);
    const expected = changed.labels.filter((label) => said.includes(label) || !isOwn(label));
    if (said.join(' | ') !== expected.join(' | ')) wrong.push(`${path}: the menu says ${said.join(' | ')} instead of ${expected.join(' | ')}`);
    for (const [index, link] of [...was.slice(0, run.from), ...was.slice(run.to)].entries()) {
      const other = index < run.from ? now[index] : now[now.length - (was.length - run.to) + (index - run.from)];
      if (other?.to !== link.to || other.words !== link.words) wrong.push(`${path}: “${link.words}” outside of the menu led to ${link.to} and leads to ${other?.to}`);
    }
    for (const link of inMenu) {
      const own = was.slice(run.from, run.to).find(({ words }) => words === link.words);
      if (own && own.to !== link.to) wrong.push(`${path}: “${link.words}” led to ${own.to} and leads to ${link.to}`);
    }
    // Outside of the menu's own markup not one byte may differ.
    const [first, last] = [was[run.from]?.start ?? 0, was[run.to - 1]?.end ?? before.length];
    if (commonStart(before, after) < first - AROUND || commonEnd(before, after) < before.length - last - AROUND) wrong.push(`${path}: bytes outside of the menu differ: ${difference(before, after)}`);
  }
  if (reached < menu.pages) wrong.push(`the menu was written on ${reached} of ${menu.pages} pages`);
  await back(site);
  return wrong;
}

/** An item's own markup may reach this far beyond its link. */
const AROUND = 400;

function commonStart(a: string, b: string): number {
  let at = 0;
  while (at < a.length && a[at] === b[at]) at += 1;
  return at;
}
function commonEnd(a: string, b: string): number {
  let at = 0;
  while (at < a.length && a[a.length - 1 - at] === b[b.length - 1 - at]) at += 1;
  return at;
}

/** A head over a drop-down is no link everywhere, so only pages say whether its words are among the links. */
const allLabels = (items: Items): string[] => items.flatMap((item): string[] => [item.label, ...allLabels(item.children as Items)]);

const menuMoved: Act = {
  name: 'menu item moved',
  run: (site) => menuAct(site, (items) => { const next = [...items.slice(1), ...items.slice(0, 1)]; return { items: next, labels: allLabels(next) }; }),
};
const menuAdded: Act = {
  name: 'menu item added',
  run: (site) => menuAct(site, (items, page) => {
    const next = [...items, { target: { kind: 'page', page: page.id }, label: 'Quite new here', newWindow: false, children: [] }] as Items;
    return { items: next, labels: allLabels(next) };
  }),
};
const menuRenamed: Act = {
  name: 'menu item renamed',
  run: (site) => menuAct(site, (items) => {
    const at = items.findIndex(({ children, target }) => children.length === 0 && target.kind !== 'none');
    const chosen = at < 0 ? 0 : at;
    const next = items.map((item, index) => (index === chosen ? { ...item, label: 'Called otherwise' } : item));
    return { items: next, labels: allLabels(next) };
  }),
};

const logo: Act = {
  name: 'logo swapped everywhere',
  async run(site) {
    const counts = new Map<string, number>();
    for (const path of Object.keys(site.files)) {
      const text = letters(site.files[path] as Uint8Array);
      const refs = isPage(path) ? refsOf(text) : [];
      for (const address of new Set(refs.filter(({ tag, attribute }) => tag === 'img' && attribute === 'src').map(({ value }) => leadsTo(value.trim(), addressOf(path), undefined)))) counts.set(address, (counts.get(address) ?? 0) + 1);
    }
    const known = new Map(Object.keys(site.files).map((path) => [addressOf(path), path]));
    const [picture] = [...counts].filter(([address]) => known.has(address)).sort((a, b) => b[1] - a[1])[0] ?? [];
    if (picture === undefined) return 'no picture';
    const { version } = await site.client.overview(site.id);
    const added = await site.client.send<{ address: string }>('POST', `/api/sites/${site.id}/assets?fileName=quite-new.png&version=${version}`, PIXEL, { 'content-type': 'application/octet-stream' });
    if (added.status !== 201) throw new Error(`the picture was answered ${JSON.stringify(added.body)}`);
    await decide(site, { kind: 'touch', touch: { kind: 'picture', scope: { kind: 'everywhere' }, from: picture, to: added.body.address } });
    await site.publish();
    const wrong = await wrongWith(site, {
      ...AS_IMPORTED,
      ref: (path, _, ref: Ref) => (addressesIn(ref).length === 1 && leadsTo(addressesIn(ref)[0] ?? '', addressOf(path), undefined) === picture ? added.body.address : undefined),
    });
    await back(site, 2);
    return wrong;
  },
};

const PIXEL = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64');

/** A paragraph's or heading's first text, written plainly and once in its page. */
function plainText(text: string): { readonly start: number; readonly words: string; readonly from: number } | undefined {
  let open: number | undefined;
  let found: { start: number; words: string; from: number } | undefined;
  const parser = new Parser({
    onopentag(tag) { open = ['p', 'h1', 'h2', 'h3', 'li'].includes(tag) ? parser.startIndex : undefined; },
    ontext(data) {
      const from = parser.startIndex;
      if (!found && open !== undefined && /^[A-Za-z][\w ,.-]{12,}$/.test(data.trim()) && text.slice(from, from + data.length) === data && text.split(data.trim()).length === 2) found = { start: open, words: data.trim(), from: from + data.indexOf(data.trim()) };
      open = undefined;
    },
    oncomment() { open = undefined; },
  }, { decodeEntities: false, lowerCaseTags: true });
  parser.write(text);
  parser.end();
  return found;
}

/** The application counts letters, and the checker bytes. */
function characters(text: string, bytes: number): number {
  const isUtf8 = /charset\s*=\s*["']?utf-8|encoding\s*=\s*["']utf-8/i.test(text.slice(0, 2000));
  return isUtf8 ? Buffer.from(text.slice(0, bytes), 'latin1').toString('utf8').replace(/^\ufeff/, '').length : bytes;
}

const textEdited: Act = {
  name: 'text edited',
  async run(site) {
    for (const path of [...mostLinked(site).slice(0, 20), ...pagesOf(site).slice(0, 5)]) {
      const bytes = site.files[path] as Uint8Array;
      const place = plainText(letters(bytes));
      if (!place) continue;
      const page = await rowAt(site, path);
      const pointed = await site.client.post<Pointed>(`/api/sites/${site.id}/pages/${page.id}/pointed`, { start: characters(letters(bytes), place.start), child: 0 });
      if (pointed.status !== 200 || pointed.body.text !== place.words.replace(/\s+/g, ' ')) continue;
      await decide(site, { kind: 'touch', touch: { kind: 'text', scope: { kind: 'page', page: page.id }, place: pointed.body.anchor, to: 'Words & more' } });
      await site.publish();
      const edited = (text: string) => text.slice(0, place.from) + 'Words &amp; more' + text.slice(place.from + place.words.length);
      const wrong = await wrongWith(site, { ...AS_IMPORTED, source: (each, own) => (each === path ? Buffer.from(edited(letters(own)), 'latin1') : own) });
      await back(site);
      return wrong;
    }
    return 'no plain text';
  },
};

const sectionRemoved: Act = {
  name: 'section removed and put back',
  async run(site) {
    for (const path of mostLinked(site).slice(0, 12).concat(pagesOf(site).slice(0, 2))) {
      const page = await rowAt(site, path);
      const { body } = await site.client.get<PageInside>(`/api/sites/${site.id}/pages/${page.id}/inside`);
      const section = body.sections[1];
      if (!section) continue;
      await decide(site, { kind: 'remove', thing: { kind: 'section', page: page.id, section: { name: section.name, nth: section.nth } }, standIn: { kind: 'none' }, links: 'kept', why: '', newHome: null });
      await site.publish();
      const before = letters(site.files[path] as Uint8Array);
      const after = letters((await site.visit(addressOf(path))).bytes);
      const wrong: string[] = [];
      const [start, end] = [commonStart(before, after), commonEnd(before, after)];
      // One piece went, and it is what it was called: whole elements, with its own heading and none that follows.
      const cut = rotated(before, start, before.length - after.length);
      if (start + end < after.length) wrong.push(`${path}: more than one piece differs: ${difference(before, after)}`);
      const rest = unbalanced(cut);
      if (rest.length > 0) wrong.push(`${path}: “${section.name}” went with half an element: ${rest.join(' ')}`);
      const following = body.sections[2]?.name;
      if (following && !/…$/.test(following) && plainWords(cut).includes(plainWords(following)) && plainWords(following).length > 8 && !plainWords(section.name).includes(plainWords(following))) wrong.push(`${path}: “${following}” went along with “${section.name}”`);
      wrong.push(...(await wrongWith(site, { ...AS_IMPORTED, source: (each, own) => (each === path ? Buffer.from(after, 'latin1') : own) })));
      const { version } = await site.client.overview(site.id);
      await decide(site, { kind: 'put-back', things: [{ of: version }], where: 'in-place', taken: 'stop' });
      await site.publish();
      wrong.push(...(await wrongWith(site, AS_IMPORTED)).map((words) => `put back: ${words}`));
      await back(site, 2);
      return wrong;
    }
    return 'no sections';
  },
};

/** A cut can be named by several positions where what goes begins as what follows; the one that begins with a tag is meant. */
function rotated(before: string, start: number, length: number): string {
  for (let at = start; at >= Math.max(0, start - length); at -= 1) {
    if (/^\s*<[a-z]/i.test(before.slice(at, at + 40)) && before.slice(at, start) === before.slice(at + length, start + length)) return before.slice(at, at + length);
  }
  return before.slice(start, start + length);
}

const plainWords = (html: string): string => html.replace(/<[^>]*>/g, ' ').replace(/&\w+;/g, ' ').replace(/[^\x21-\x7e]+/g, ' ').trim();
const NO_END = new Set(['br', 'hr', 'img', 'input', 'meta', 'link', 'col', 'area', 'base', 'embed', 'source', 'track', 'wbr', 'p', 'li', 'dt', 'dd', 'tr', 'td', 'th', 'tbody', 'thead', 'option', 'basefont']);

/** Tags of a piece that are not closed in it, or close what is not open. */
function unbalanced(piece: string): string[] {
  const open: string[] = [];
  const wrong: string[] = [];
  for (const [tag, slash, name = '', self] of piece.replace(/<!--[^]*?-->|<(script|style)\b[^]*?<\/\1>/gi, '').matchAll(/<(\/?)([a-z][a-z0-9]*)\b[^>]*?(\/?)>/gi)) {
    const lower = name.toLowerCase();
    if (NO_END.has(lower) || self === '/') continue;
    if (slash === '') open.push(lower);
    else if (open.at(-1) === lower) open.pop();
    else if (open.includes(lower)) open.splice(open.lastIndexOf(lower), 1);
    else wrong.push(tag);
  }
  return [...wrong, ...open.map((name) => `<${name}>`)];
}

const duplicated: Act = {
  name: 'page duplicated',
  async run(site) {
    const [chosen] = mostLinked(site);
    if (chosen === undefined) return 'no other page';
    const page = await rowAt(site, chosen);
    const { made } = await decide(site, { kind: 'duplicate', page: page.id, title: 'Quite a copy' });
    const copy = (await site.client.pages(site.id)).find(({ id }) => id === made);
    await site.publish();
    const wrong = await wrongWith(site, AS_IMPORTED);
    const [was, now] = [letters(site.files[chosen] as Uint8Array), letters((await site.visit(copy?.address ?? '')).bytes)];
    const [old, fresh] = [linksOf(was, addressOf(chosen)), linksOf(now, copy?.address ?? '')];
    old.forEach(({ to, words }, index) => {
      const own = (address: string, here: string) => (address === here || address.startsWith(`${here}#`) ? address.slice(here.length) : address);
      // A link to the page itself means it, or, where it says nothing, whichever page it stands on.
      if (to === addressOf(chosen) && [copy?.address, to].includes(fresh[index]?.to)) return;
      if (own(to, addressOf(chosen)) !== own(fresh[index]?.to ?? '', copy?.address ?? '')) wrong.push(`copy of ${chosen}: “${words}” led to ${to} and leads to ${fresh[index]?.to}`);
    });
    if (!now.includes('<title>Quite a copy</title>') && !/<TITLE>Quite a copy<\/TITLE>/i.test(now)) wrong.push(`copy of ${chosen}: has another title`);
    await back(site);
    return wrong;
  },
};

const underPath: Act = {
  name: 'whole site under a path and back',
  async run(site) {
    await decide(site, { kind: 'base-path', path: '/quite/below' });
    await site.publish();
    const wrong = await wrongWith(site, { ...AS_IMPORTED, addressOf: (path) => `/quite/below${addressOf(path)}`, leadsOn: (address) => `/quite/below${address}` });
    wrong.push(...(await ledOn(site, '', '/quite/below')));
    await decide(site, { kind: 'base-path', path: '' });
    await site.publish();
    wrong.push(...(await wrongWith(site, AS_IMPORTED)).map((words) => `back: ${words}`), ...(await ledOn(site, '/quite/below', '')));
    await back(site, 2);
    return wrong;
  },
};

/** Every address that was answered leads to the same file again, in few steps. */
async function ledOn(site: CheckedSite, from: string, to: string): Promise<string[]> {
  const wrong: string[] = [];
  for (const path of Object.keys(site.files)) {
    const address = addressOf(path);
    for (const asked of new Set([from + address, ...(address !== '/' && address.endsWith('/') ? [from + address.slice(0, -1)] : [])])) {
      let at = asked;
      for (let hop = 0; hop < 3; hop += 1) {
        const { status, location } = await site.visit(at);
        if (status < 300 || status > 399 || location === undefined) break;
        at = location;
      }
      if (at !== to + address && !(path === '404.html' && at === asked)) wrong.push(`${asked} ends at ${at} instead of ${to}${address}`);
    }
  }
  return wrong;
}

const newerExport: Act = {
  name: 'newer export',
  async run(site) {
    const pages = mostLinked(site);
    const path = pages.find((each) => plainText(letters(site.files[each] as Uint8Array)));
    const place = path === undefined ? undefined : plainText(letters(site.files[path] as Uint8Array));
    if (path === undefined || !place) return 'no plain text';
    const title = pages.find((each) => each !== path);
    if (title !== undefined) await decide(site, { kind: 'title', page: (await rowAt(site, title)).id, title: 'Kept from before' });
    const text = letters(site.files[path] as Uint8Array);
    const newer = Buffer.from(`${text.slice(0, place.from)}Said anew in the export${text.slice(place.from + place.words.length)}`, 'latin1');
    const files = { ...site.files, [path]: newer };
    await site.client.bringIn(site.id, await site.zip(files));
    await site.publish();
    const titled = (own: string) => own.replace(/(<title[^>]*>)[^<]*(<\/title>)/i, '$1Kept from before$2');
    const hasTitle = title !== undefined && /<title[^>]*>[^<]*<\/title>/i.test(letters(site.files[title] as Uint8Array));
    const wrong = await wrongWith({ ...site, files }, { ...AS_IMPORTED, source: (each, own) => (each === title && hasTitle ? Buffer.from(titled(letters(own)), 'latin1') : own) });
    return wrong.filter((words) => hasTitle || !words.startsWith(`${title}: bytes`));
  },
};

/** The newer export comes last: it is a fact, and no step to take back. */
export const ACTS: readonly Act[] = [home, rename, moveBranch, menuMoved, menuAdded, menuRenamed, logo, textEdited, sectionRemoved, duplicated, underPath, newerExport];

