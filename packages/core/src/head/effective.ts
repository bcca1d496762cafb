/**
 * The effective head: for every line of a page, what stands there in the end, where that comes from, and
 * what the page itself says where the two differ. Computed from records alone, so that a change for a
 * whole site does not need its pages read again.
 */
import { fold } from '../html/index.ts';
import { isSettable, type LineName } from './lines.ts';
import type { OwnLine } from './own.ts';
import type { SettingIndex, SettingOrigin } from './settings.ts';
import { articleData, breadcrumbData, eventData, type Crumb } from './structured.ts';
import { patternedTitle } from './titlePattern.ts';

export type Origin = 'imported' | SettingOrigin | 'computed';

/** A line that has to be written, or taken away where its text is false. */
export interface PlannedLine {
  readonly name: LineName;
  readonly from: Exclude<Origin, 'imported'>;
  readonly text: string | false;
  /** Of links: what else stands in them. */
  readonly attributes?: Readonly<Record<string, string>>;
}

export interface EffectiveLine {
  readonly name: LineName;
  /** Undefined where nothing stands. */
  readonly text: string | undefined;
  readonly from: Origin;
  /** What the page itself says, as often as it says it. */
  readonly own: readonly string[];
  /** What was set or computed here and does not stand, since the page has a line of its own and nobody said which counts. */
  readonly conflict: { readonly text: string | false; readonly from: Exclude<Origin, 'imported'> } | undefined;
}

export interface HeadPage {
  readonly id: string;
  /** Where it answers, the base path included. */
  readonly address: string;
  readonly isHome: boolean;
  /** The title set here, else the imported one. */
  readonly title: string;
  readonly isTitleSet: boolean;
  readonly language: string;
  /** The day it gives for itself; null for a page that is no entry of anything. */
  readonly date: string | null;
  /** What it came with. */
  readonly own: readonly OwnLine[];
  /** Pages at which branches with settings begin that hold it, nearest first. */
  readonly branches: readonly string[];
}

export interface HeadSite {
  readonly settings: SettingIndex;
  /** `https://site.example`; undefined while the site has no main address, and then nothing absolute is written. */
  readonly origin: string | undefined;
  /** What it is called where no name was set. */
  readonly name: string;
  /** What imported titles end in. */
  readonly endings: readonly string[];
  readonly labelOf: (title: string) => string;
  /** From the home page down to the page above. */
  readonly ancestorsOf: (page: string) => readonly Crumb[];
  /** The page in all its languages, itself included; empty where it is alone. */
  readonly translationsOf: (page: string) => readonly { readonly language: string; readonly address: string }[];
  /** Links to the icons made here, in the form they stand in pages. */
  readonly icons: readonly { readonly name: LineName; readonly href: string; readonly attributes: Readonly<Record<string, string>> }[];
  readonly pictureSize: (address: string) => { readonly widthPx: number; readonly heightPx: number } | undefined;
}

export interface EffectiveHead {
  readonly lines: readonly EffectiveLine[];
  /** Only what differs from the page as it came in. */
  readonly plan: readonly PlannedLine[];
}

export function effectiveHead(page: HeadPage, site: HeadSite): EffectiveHead {
  const { settings } = site;
  const lines: EffectiveLine[] = [];
  const plan: PlannedLine[] = [];
  const inForce = (name: string) => settings.inForce(name, page.id, page.branches);
  const isOn = (name: string) => typeof inForce(name).text === 'string';
  const ownTexts = (name: LineName) => (name === 'title' ? (page.title === '' ? [] : [page.title]) : name === 'language' ? (page.language === '' ? [] : [page.language])
    : page.own.filter((line) => line.name === name).map(({ text }) => fold(text)));

  /** @param computed what stands there where nobody set anything */
  const settle = (name: LineName, computed?: string, attributes?: Readonly<Record<string, string>>): string | undefined => {
    const set = inForce(name);
    const own = ownTexts(name);
    const text = set.text ?? computed;
    const from: Exclude<Origin, 'imported'> = set.from ?? 'computed';
    if (text === undefined || (own.length > 0 && !set.replacesOwn)) {
      const conflict = text === undefined || set.isDecided || own.length === 0 || (own.length === 1 && own[0] === text) ? undefined : { text, from };
      if (own.length > 0) lines.push({ name, text: own[0], from: 'imported', own, conflict });
      return own[0];
    }
    const written = absolute(name, text);
    lines.push({ name, text: written === false ? undefined : written, from, own, conflict: undefined });
    // Machines take only whole addresses; without a main one there is none yet.
    if (written !== false && written.startsWith('/') && WHOLE.has(name)) return written;
    if (written === false ? own.length > 0 : own.length !== 1 || own[0] !== written) plan.push({ name, from, text: written, ...(attributes ? { attributes } : {}) });
    return written === false ? undefined : written;
  };
  /** Pictures to share and canonical addresses may be set as addresses of the site; machines want whole ones. */
  const absolute = (name: LineName, text: string | false) => (text !== false && text.startsWith('/') && site.origin !== undefined && WHOLE.has(name) ? site.origin + text : text);
  const add = (line: PlannedLine) => {
    lines.push({ name: line.name, text: line.text === false ? undefined : line.text, from: line.from, own: [], conflict: undefined });
    plan.push(line);
  };

  const textSet = (name: string) => { const { text } = inForce(name); return typeof text === 'string' ? text : ''; };
  const siteName = textSet('name') || site.name;
  const title = settleTitle();
  function settleTitle(): string {
    const pattern = inForce('pattern');
    const short = page.isTitleSet ? page.title : site.labelOf(page.title);
    const text = typeof pattern.text === 'string' && pattern.text !== '' ? patternedTitle(pattern.text, short, siteName, textSet('tagline')) : page.title;
    const from = text === page.title ? (page.isTitleSet ? 'page' : 'imported') : (pattern.from ?? 'site');
    if (text !== '') lines.push({ name: 'title', text, from, own: ownTexts('title'), conflict: undefined });
    if (text !== page.title && from !== 'imported') plan.push({ name: 'title', from, text });
    return text;
  }
  const language = settle('language') ?? page.language;
  const description = settle('meta:description');
  const url = site.origin === undefined ? undefined : site.origin + page.address;
  const isShut = /\b(noindex|none)\b/i.test(settle('meta:robots') ?? '');
  const canonical = settle('link:canonical', isOn('canonical') ? url : undefined);
  if (isOn('alternates') && site.origin !== undefined && !isShut) {
    const translations = site.translationsOf(page.id);
    const first = translations[0];
    for (const each of translations) settle(`link:alternate:${each.language.toLowerCase()}`, site.origin + each.address, { hreflang: each.language });
    if (first) settle('link:alternate:x-default', site.origin + first.address, { hreflang: 'x-default' });
  }
  const isShared = isOn('share');
  settle('meta:og:title', isShared ? site.labelOf(title) || undefined : undefined);
  settle('meta:og:description', isShared ? description : undefined);
  const image = settle('meta:og:image');
  const imageAddress = image === undefined ? undefined : site.origin !== undefined && image.startsWith(`${site.origin}/`) ? image.slice(site.origin.length) : image;
  const size = imageAddress?.startsWith('/') ? site.pictureSize(imageAddress) : undefined;
  settle('meta:og:image:width', isShared && size ? String(size.widthPx) : undefined);
  settle('meta:og:image:height', isShared && size ? String(size.heightPx) : undefined);
  settle('meta:og:url', isShared ? (canonical ?? url) : undefined);
  settle('meta:og:type', isShared ? (page.date === null ? 'website' : 'article') : undefined);
  settle('meta:og:site_name', isShared && siteName !== '' ? siteName : undefined);

  const done = new Set(lines.map(({ name }) => name));
  for (const name of new Set([...settings.names, ...page.own.map((line) => line.name)])) {
    if (done.has(name) || (!isSettable(name) && !name.startsWith('link:')) || ICON_LINES.has(name)) continue;
    settle(name);
  }
  // Icons made here stand instead of those the page came with: that is what making them means.
  if (site.icons.length > 0) {
    for (const name of ICON_LINES) if (ownTexts(name).length > 0) plan.push({ name, from: 'site', text: false });
    for (const { name, href, attributes } of site.icons) add({ name, from: 'site', text: href, attributes });
  } else for (const name of ICON_LINES) for (const text of ownTexts(name)) lines.push({ name, text, from: 'imported', own: [text], conflict: undefined });

  const data = (name: string, value: object | undefined) => { if (value) add({ name: `json:${name}`, from: 'computed', text: JSON.stringify(value, undefined, 1) }); };
  const organisation = inForce('organisation').text;
  const facts = { url: url ?? '', title: site.labelOf(title), description, language, date: page.date, image, author: lines.find(({ name }) => name === 'meta:author')?.text, siteName };
  if (url !== undefined && isOn('breadcrumb')) data('breadcrumb', breadcrumbData(site.origin ?? '', [...site.ancestorsOf(page.id), { title: facts.title, address: page.address }]));
  if (url !== undefined && isOn('article')) data('article', articleData(facts));
  if (url !== undefined && isOn('event')) data('event', eventData(facts));
  if (typeof organisation === 'string' && organisation !== '' && page.isHome) add({ name: 'json:organisation', from: 'site', text: organisation });
  for (const [setting, name] of [['data', 'json:data'], ['code:head', 'code:head'], ['code:end', 'code:end']] as const) {
    const { text, from } = inForce(setting);
    if (typeof text === 'string' && text.trim() !== '' && from) add({ name, from, text });
  }
  return { lines, plan };
}

const WHOLE: ReadonlySet<LineName> = new Set(['meta:og:image', 'link:canonical']);

const ICON_LINES: ReadonlySet<LineName> = new Set(['link:icon', 'link:apple-touch-icon', 'link:mask-icon', 'link:manifest']);
