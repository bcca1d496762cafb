/**
 * Relaunches made from a real site: its pages are the new side, and an old side is made of them as sites
 * change over the years: branches renamed, merged, split and nested anew, other spellings and endings,
 * ids for names, titles and texts reworded, pages dropped. What is invented here is only how; the pages are real.
 */
import type { RedirectMap, MapPage, OldMapPage } from './maps.ts';
import { chance, type Chance } from './chance.ts';

type Spelling = (words: readonly string[]) => string;

const SPELLINGS: readonly Spelling[] = [
  (words) => words.join('-'),
  (words) => words.join('_'),
  (words) => words.join(''),
  (words) => words.map((word) => word.slice(0, 1).toUpperCase() + word.slice(1)).join(''),
  (words) => words.map((word) => word.slice(0, 1).toUpperCase() + word.slice(1)).join('_'),
  (words) => words.join('+'),
];
const ENDINGS = ['.html', '.htm', '.php', '.asp', '.aspx', '', '/', '.shtml', '.jsp'];
const FILLER = new Set(['the', 'a', 'of', 'and', 'to', 'in', 'for', 'with', 'on', 'how', 'what', 'is']);
const FRONTS = [
  '/index.php',
  '/index.html',
  '/default.asp',
  '/home.html',
  '/start.php',
  '/index.cgi',
  '/home/',
  '/main.jsp',
];
const FOLDERS = [
  'docs',
  'pages',
  'content',
  'info',
  'site',
  'web',
  'public',
  'en',
  'articles',
  'archive',
  'library',
  'main',
  'help',
  'support',
  'about',
  'resources',
  'topics',
];

/** How one generation of the old site named its pages. */
interface Epoch {
  readonly spelling: Spelling | undefined;
  readonly ending: string;
  readonly folder: (folders: readonly string[]) => string[];
  readonly kind: 'named' | 'titled' | 'query' | 'numbered';
  readonly reworded: number;
  readonly shortened: number | undefined;
  readonly withoutFiller: boolean;
  readonly intoName: number;
  readonly prefix: string | undefined;
}

export function relaunch(
  site: { readonly name: string; readonly pages: readonly MapPage[] },
  seed: number,
): RedirectMap {
  const by = chance(seed);
  const pool = [...new Set(site.pages.flatMap(({ title }) => wordsIn(title)))].filter((word) => word.length > 3);
  let pages = by.shuffled(site.pages).slice(0, by.whole(60, 900));
  const goneShare = by.is(0.35) ? 0 : by.next() * 0.25;
  const gone = pages.slice(0, Math.floor(pages.length * goneShare));
  pages = pages.slice(gone.length);
  const opaque = by.is(0.12);
  const fresh = opaque ? numbered(by, pages) : pages;
  const known = by.one(['address', 'address', 'address', 'title', 'text', 'text'] as const);
  const moved = by
    .shuffled(fresh.map((page, at) => ({ page, origin: pages[at] as MapPage })))
    .slice(0, Math.max(20, Math.floor(fresh.length * (0.25 + by.next() * 0.75))));
  const taken = new Set(fresh.map(({ url }) => url));
  const old: OldMapPage[] = [];
  const truth: Record<string, string | null> = {};
  const textKept = by.is(0.15) ? 0.2 : 0.5 + by.next() * 0.5;
  const suffix = by.is(0.6) ? ` ${by.one(['|', '-', '–', '·'])} ${by.one(pool)} ${by.one(pool)}` : '';
  const retitled = by.next() * 0.35;
  const epochs = by.whole(1, 3);
  for (let n = 0; n < epochs; n += 1) {
    const epoch = epochOf(by, site.pages, pool, opaque || by.is(known === 'address' ? 0.06 : 0.3));
    const share = epochs === 1 ? 1 : 0.35 + by.next() * 0.5;
    const here = [
      ...moved.map(({ page, origin }) => ({ origin, to: page.url as string | null })),
      ...gone.map((origin) => ({ origin, to: null })),
    ];
    for (const { origin, to } of by.some(here, share)) {
      const url = oldAddress(by, epoch, origin, pool);
      if (taken.has(url)) continue;
      taken.add(url);
      const isKnown = known !== 'address' && by.is(0.92);
      old.push({
        url,
        ...(isKnown ? { title: retitle(by, origin.title, pool, retitled) + suffix } : {}),
        ...(isKnown && known === 'text'
          ? {
              ...(origin.language === undefined ? {} : { language: origin.language }),
              text: reworded(by, origin.text ?? '', pool, textKept),
            }
          : {}),
      });
      truth[url] = to;
    }
  }
  return { name: `${site.name}-${seed}`, old: by.shuffled(old), new: fresh, truth };
}

function epochOf(by: Chance, pages: readonly MapPage[], pool: readonly string[], mayBeOpaque: boolean): Epoch {
  const folders = [...new Set(pages.flatMap(({ url }) => url.split('/').slice(1, -1)))];
  const renamed = new Map(
    by
      .some(folders, by.next() * 0.6)
      .map((name) => [name, by.one([...FOLDERS, by.one(pool), by.one(pool), by.one(pool)])]),
  );
  const dropped = new Set(by.some(folders, by.is(0.4) ? 0.25 : 0));
  const top = by.is(0.3) ? by.one(FOLDERS) : undefined;
  const dated = by.is(0.05);
  const flat = by.is(0.1);
  return {
    spelling: by.is(0.5) ? undefined : by.one(SPELLINGS),
    ending: by.one(ENDINGS),
    folder: (of) => {
      const own = flat ? [] : of.filter((name) => !dropped.has(name)).map((name) => renamed.get(name) ?? name);
      return [
        ...(top === undefined ? [] : [top]),
        ...(dated ? [String(by.whole(2004, 2021)), String(by.whole(1, 12)).padStart(2, '0')] : []),
        ...own,
      ];
    },
    kind: mayBeOpaque
      ? by.one(['query', 'numbered'] as const)
      : by.one(['named', 'named', 'named', 'named', 'named', 'titled'] as const),
    // Most relaunches keep most names (of the real maps two thirds and more do).
    reworded: by.is(0.6) ? 0.02 : by.next() * 0.25,
    shortened: by.is(0.06) ? by.whole(6, 16) : undefined,
    withoutFiller: by.is(0.3),
    intoName: by.is(0.2) ? 0.5 : 0,
    prefix: by.is(0.08) ? by.one(pool) : undefined,
  };
}

function oldAddress(by: Chance, epoch: Epoch, page: MapPage, pool: readonly string[]): string {
  const segments = page.url.split('/').slice(1);
  const file = segments.pop() ?? '';
  const isIndex = file === '' || /^index\./.test(file);
  const own = isIndex ? (segments.pop() ?? 'home') : file.replace(/\.[a-z]+$/, '');
  if (isIndex && page.url.split('/').length === 2) return by.one(FRONTS);
  const folders = epoch.folder(segments);
  // Programs are often called like the branch they show, which makes all of its pages look like the branch's own.
  if (epoch.kind === 'query')
    return `/${[...folders.slice(0, 1), by.is(0.5) ? (segments.at(-1) ?? wordsIn(page.title)[0] ?? 'page') : by.one(['page', 'index', 'show', 'view'])].join('/')}.php?id=${by.whole(1, 9000)}`;
  if (epoch.kind === 'numbered')
    return `/${[...folders.slice(0, 1), `a${String(by.whole(1, 9000)).padStart(5, '0')}`].join('/')}.html`;
  let words = epoch.kind === 'titled' ? wordsIn(page.title).slice(0, 9) : wordsIn(own.replace(/[-_.+]+/g, ' '));
  if (words.length === 0) words = ['page'];
  if (epoch.withoutFiller)
    words = words.filter((word) => !FILLER.has(word)).length > 0 ? words.filter((word) => !FILLER.has(word)) : words;
  if (by.is(epoch.reworded)) words = otherWords(by, words, page, pool);
  if (epoch.prefix !== undefined) words = [epoch.prefix, ...words];
  const parent = folders.at(-1);
  if (parent !== undefined && by.is(epoch.intoName)) {
    words = [...wordsIn(parent), ...words];
    folders.pop();
  }
  let name =
    epoch.spelling || epoch.kind === 'titled' || words.join('') !== wordsIn(own.replace(/[-_.+]+/g, ' ')).join('')
      ? (epoch.spelling ?? (SPELLINGS[0] as Spelling))(words)
      : own;
  if (epoch.shortened !== undefined) name = name.slice(0, epoch.shortened);
  if (isIndex && by.is(0.5)) return `/${[...folders, name].join('/')}/`;
  return encodeURI(`/${[...folders, name].join('/')}${epoch.ending}`);
}

/** As an editor names a page anew: other words of the same page, one more or one less, a short form. */
function otherWords(by: Chance, words: readonly string[], page: MapPage, pool: readonly string[]): string[] {
  switch (by.whole(0, 6)) {
    case 0:
      return wordsIn(page.title).slice(0, by.whole(1, 4));
    case 1:
      return [...words, by.one(pool)];
    case 2:
      return words.length > 1 ? by.shuffled(words).slice(1) : [...words];
    case 3:
      return words.map((word) => (word.length > 6 ? word.slice(0, 4) : word));
    case 4:
      return words.map((word) => (word.endsWith('s') ? word.slice(0, -1) : `${word}s`));
    case 5:
      return [
        by.one(
          wordsIn(page.text ?? page.title)
            .slice(0, 30)
            .filter((word) => word.length > 3)
            .concat(words),
        ),
        ...words.slice(1),
      ];
    default:
      return by.shuffled(words);
  }
}

function retitle(by: Chance, title: string, pool: readonly string[], share: number): string {
  if (!by.is(share)) return title;
  const words = title.split(/\s+/);
  switch (by.whole(0, 3)) {
    case 0:
      return words.length > 2 ? words.slice(0, -1).join(' ') : title;
    case 1:
      return `${title} ${by.one(pool)}`;
    case 2:
      return words.map((word) => (by.is(0.3) ? by.one(pool) : word)).join(' ');
    default:
      return title.toUpperCase();
  }
}

function reworded(by: Chance, text: string, pool: readonly string[], kept: number): string {
  return text
    .split(/(?<=[.!?])\s+/)
    .filter(() => by.is(Math.max(kept, 0.3)))
    .map((sentence) =>
      sentence
        .split(' ')
        .map((word) => (by.is((1 - kept) * 0.4) ? by.one(pool) : word))
        .join(' '),
    )
    .join(' ');
}

/** The new side of a site whose addresses say nothing either: numbers by the order of its pages, which the old side numbers otherwise. */
function numbered(by: Chance, pages: readonly MapPage[]): MapPage[] {
  const start = by.whole(1, 400);
  return pages.map((page, at) => ({
    ...page,
    url: `/a${String(start + at * by.whole(1, 3) + at).padStart(5, '0')}.html`,
  }));
}

function wordsIn(text: string): string[] {
  return text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
}
