/**
 * The effective head: for every line of a page, what stands there in the end, where that comes from, and
 * what the page itself says where the two differ. Computed from records alone, so that a change for a
 * whole site does not need its pages read again.
 */
import { fold } from '../html/index.ts';
import { isSettable, type LineName } from './lines.ts';
import type { OwnLine } from './own.ts';
import type { InForce, SettingIndex, SettingOrigin } from './settings.ts';
import { writeArticleData, writeBreadcrumbData, writeEventData, type Crumb, type DatedFacts } from './structured.ts';
import { fillTitlePattern } from './titlePattern.ts';

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
  readonly icons: readonly {
    readonly name: LineName;
    readonly href: string;
    readonly attributes: Readonly<Record<string, string>>;
  }[];
  readonly pictureSize: (address: string) => { readonly widthPx: number; readonly heightPx: number } | undefined;
}

export interface EffectiveHead {
  readonly lines: readonly EffectiveLine[];
  /** Only what differs from the page as it came in. */
  readonly plan: readonly PlannedLine[];
}

export function reckonEffectiveHead(page: HeadPage, site: HeadSite): EffectiveHead {
  const head = new Head(page, site);
  const title = addTitleLine(head);
  const language = head.settle('language') ?? page.language;
  const description = head.settle('meta:description');
  const isShut = /\b(noindex|none)\b/i.test(head.settle('meta:robots') ?? '');
  const canonical = head.settle('link:canonical', head.isOn('canonical') ? head.url : undefined);
  if (!isShut) addLanguageLinks(head);
  const image = shareCard(head, { title, description, url: canonical ?? head.url });
  head.settleRest();
  addIconLinks(head);
  addStructuredData(head, {
    url: head.url ?? '',
    title,
    description,
    language,
    date: page.date,
    image,
    author: head.textOf('meta:author'),
    siteName: head.siteName,
  });
  head.addText('data', 'json:data');
  head.addText('code:head', 'code:head');
  head.addText('code:end', 'code:end');
  return head;
}

/** The head of one page while it is put together, line by line. */
class Head implements EffectiveHead {
  readonly lines: EffectiveLine[] = [];
  readonly plan: PlannedLine[] = [];
  /** Whole address of the page; undefined while the site has no main one. */
  readonly url: string | undefined;
  readonly siteName: string;
  readonly page: HeadPage;
  readonly site: HeadSite;

  constructor(page: HeadPage, site: HeadSite) {
    this.page = page;
    this.site = site;
    this.url = site.origin === undefined ? undefined : site.origin + page.address;
    this.siteName = this.textSet('name') || site.name;
  }

  inForce(name: string): InForce {
    return this.site.settings.inForce(name, this.page.id, this.page.branches);
  }

  isOn(name: string): boolean {
    return typeof this.inForce(name).text === 'string';
  }

  textSet(name: string): string {
    const { text } = this.inForce(name);
    return typeof text === 'string' ? text : '';
  }

  textOf(name: LineName): string | undefined {
    return this.lines.find((line) => line.name === name)?.text;
  }

  ownTexts(name: LineName): string[] {
    if (name === 'title' || name === 'language') return this.page[name] === '' ? [] : [this.page[name]];
    return this.page.own.filter((line) => line.name === name).map(({ text }) => fold(text));
  }

  /**
   * Decides what stands in a line.
   *
   * @param computed what stands there where nobody set anything
   * @returns what stands there in the end
   */
  settle(name: LineName, computed?: string, attributes?: Readonly<Record<string, string>>): string | undefined {
    const set = this.inForce(name);
    const texts = this.ownTexts(name);
    const text = set.text ?? computed;
    const from = set.from ?? 'computed';
    if (text === undefined || (texts.length > 0 && !set.replacesOwn)) {
      const isSame = text === undefined || (texts.length === 1 && texts[0] === text);
      if (texts.length > 0)
        this.lines.push({
          name,
          text: texts[0],
          from: 'imported',
          own: texts,
          conflict: isSame || set.isDecided ? undefined : { text, from },
        });
      return texts[0];
    }
    const written = text === false ? false : this.whole(name, text);
    this.lines.push({ name, text: written === false ? undefined : written, from, own: texts, conflict: undefined });
    // Machines take only whole addresses; without a main one there is none yet.
    if (written !== false && written.startsWith('/') && WHOLE.has(name)) return written;
    const isWritten = written === false ? texts.length === 0 : texts.length === 1 && texts[0] === written;
    if (!isWritten) this.plan.push({ name, from, text: written, ...(attributes ? { attributes } : {}) });
    return written === false ? undefined : written;
  }

  /** Pictures to share and canonical addresses may be set as addresses of the site. */
  private whole(name: LineName, text: string): string {
    return text.startsWith('/') && WHOLE.has(name) ? (this.site.origin ?? '') + text : text;
  }

  /** Everything else that was set, or that the page says. */
  settleRest(): void {
    const done = new Set(this.lines.map(({ name }) => name));
    for (const name of new Set([...this.site.settings.names, ...this.page.own.map((line) => line.name)])) {
      if (!done.has(name) && (isSettable(name) || name.startsWith('link:')) && !ICON_LINES.has(name)) this.settle(name);
    }
  }

  /** A line that stands beside whatever the page says. */
  add(line: PlannedLine): void {
    this.lines.push({
      name: line.name,
      text: line.text === false ? undefined : line.text,
      from: line.from,
      own: [],
      conflict: undefined,
    });
    this.plan.push(line);
  }

  addText(setting: string, name: LineName): void {
    const { text, from } = this.inForce(setting);
    if (typeof text === 'string' && text.trim() !== '' && from) this.add({ name, from, text });
  }
}

/** @returns the title as the page alone is called, without the form and the ending all titles have */
function addTitleLine(head: Head): string {
  const { page, site } = head;
  const pattern = head.inForce('pattern');
  const short = page.isTitleSet ? page.title : site.labelOf(page.title);
  const text =
    typeof pattern.text === 'string'
      ? fillTitlePattern(pattern.text, short, head.siteName, head.textSet('tagline'))
      : page.title;
  const from = text !== page.title ? (pattern.from ?? 'site') : page.isTitleSet ? 'page' : 'imported';
  if (text !== '') head.lines.push({ name: 'title', text, from, own: head.ownTexts('title'), conflict: undefined });
  if (text !== page.title && from !== 'imported') head.plan.push({ name: 'title', from, text });
  return site.labelOf(short);
}

function addLanguageLinks(head: Head): void {
  const { origin, translationsOf } = head.site;
  if (origin === undefined || !head.isOn('alternates')) return;
  const translations = translationsOf(head.page.id);
  for (const { language, address } of translations)
    head.settle(`link:alternate:${language.toLowerCase()}`, origin + address, { hreflang: language });
  const [first] = translations;
  if (first) head.settle('link:alternate:x-default', origin + first.address, { hreflang: 'x-default' });
}

/** Open Graph protocol, "Basic Metadata" and "Structured Properties". @returns the picture */
function shareCard(
  head: Head,
  {
    title,
    description,
    url,
  }: { readonly title: string; readonly description: string | undefined; readonly url: string | undefined },
): string | undefined {
  const {
    page,
    site: { origin, pictureSize },
  } = head;
  const ifShared = (text: string | undefined) => (head.isOn('share') && text !== '' ? text : undefined);
  head.settle('meta:og:title', ifShared(title));
  head.settle('meta:og:description', ifShared(description));
  const image = head.settle('meta:og:image');
  const inside = origin !== undefined && image?.startsWith(`${origin}/`) ? image.slice(origin.length) : image;
  const size = inside?.startsWith('/') ? pictureSize(inside) : undefined;
  head.settle('meta:og:image:width', ifShared(size && String(size.widthPx)));
  head.settle('meta:og:image:height', ifShared(size && String(size.heightPx)));
  head.settle('meta:og:url', ifShared(url));
  head.settle('meta:og:type', ifShared(page.date === null ? 'website' : 'article'));
  head.settle('meta:og:site_name', ifShared(head.siteName));
  return image;
}

/** Icons made here stand instead of those the page came with: that is what making them means. */
function addIconLinks(head: Head): void {
  const { icons } = head.site;
  for (const name of ICON_LINES) {
    const texts = head.ownTexts(name);
    if (icons.length === 0)
      for (const text of texts) head.lines.push({ name, text, from: 'imported', own: [text], conflict: undefined });
    else if (texts.length > 0) head.plan.push({ name, from: 'site', text: false });
  }
  for (const { name, href, attributes } of icons) head.add({ name, from: 'site', text: href, attributes });
}

function addStructuredData(head: Head, facts: DatedFacts): void {
  const { page, site } = head;
  const add = (name: string, data: object | undefined) => {
    if (data && head.isOn(name))
      head.add({ name: `json:${name}`, from: 'computed', text: JSON.stringify(data, undefined, 1) });
  };
  // Without a main address nothing that is said could be found.
  if (head.url !== undefined) {
    add(
      'breadcrumb',
      writeBreadcrumbData(site.origin ?? '', [
        ...site.ancestorsOf(page.id),
        { title: facts.title, address: page.address },
      ]),
    );
    add('article', writeArticleData(facts));
    add('event', writeEventData(facts));
  }
  if (page.isHome) head.addText('organisation', 'json:organisation');
}

const WHOLE: ReadonlySet<LineName> = new Set(['meta:og:image', 'link:canonical']);

const ICON_LINES: ReadonlySet<LineName> = new Set([
  'link:icon',
  'link:apple-touch-icon',
  'link:mask-icon',
  'link:manifest',
]);
