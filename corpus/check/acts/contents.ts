/** Acts on what stands in pages, and on whole contents: a picture, a text, a section, a copy, a newer export. */
import type { PageInside, Pointed } from '../../../packages/contracts/src/api/pages.ts';
import { linksOf } from '../anchors.ts';
import { AS_IMPORTED, difference, wrongWith } from '../site.ts';
import { addressesIn, addressOf, isPage, leadsTo, letters, refsOf, type Ref } from '../source.ts';
import { decide, mostLinked, pagesOf, rowAt, type Act } from './act.ts';
import { commonEnd, commonStart, plainText } from './pieces.ts';

export const logo: Act = {
  name: 'logo swapped everywhere',
  async run(site) {
    const counts = new Map<string, number>();
    for (const path of Object.keys(site.files)) {
      const text = letters(site.files[path] as Uint8Array);
      const refs = isPage(path) ? refsOf(text) : [];
      for (const address of new Set(
        refs
          .filter(({ tag, attribute }) => tag === 'img' && attribute === 'src')
          .map(({ value }) => leadsTo(value.trim(), addressOf(path), undefined)),
      ))
        counts.set(address, (counts.get(address) ?? 0) + 1);
    }
    const known = new Map(Object.keys(site.files).map((path) => [addressOf(path), path]));
    const [picture] = [...counts].filter(([address]) => known.has(address)).sort((a, b) => b[1] - a[1])[0] ?? [];
    if (picture === undefined) return 'no picture';
    const { version } = await site.client.overview(site.id);
    const added = await site.client.send<{ address: string }>(
      'POST',
      `/api/sites/${site.id}/assets?fileName=quite-new.png&version=${version}`,
      PIXEL,
      { 'content-type': 'application/octet-stream' },
    );
    if (added.status !== 201) throw new Error(`the picture was answered ${JSON.stringify(added.body)}`);
    await decide(site, {
      kind: 'touch',
      touch: { kind: 'picture', scope: { kind: 'everywhere' }, from: picture, to: added.body.address },
    });
    await site.publish();
    const wrong = await wrongWith(site, {
      ...AS_IMPORTED,
      ref: (path, _, ref: Ref) =>
        addressesIn(ref).length === 1 && leadsTo(addressesIn(ref)[0] ?? '', addressOf(path), undefined) === picture
          ? added.body.address
          : undefined,
    });
    return wrong;
  },
};

const PIXEL = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);

/** The application counts letters, and the checker bytes. */
function characters(text: string, bytes: number): number {
  const isUtf8 = /charset\s*=\s*["']?utf-8|encoding\s*=\s*["']utf-8/i.test(text.slice(0, 2000));
  return isUtf8
    ? Buffer.from(text.slice(0, bytes), 'latin1')
        .toString('utf8')
        .replace(/^\ufeff/, '').length
    : bytes;
}

export const textEdited: Act = {
  name: 'text edited',
  async run(site) {
    for (const path of [...mostLinked(site).slice(0, 20), ...pagesOf(site).slice(0, 5)]) {
      const bytes = site.files[path] as Uint8Array;
      const place = plainText(letters(bytes));
      if (!place) continue;
      const page = await rowAt(site, path);
      const pointed = await site.client.post<Pointed>(`/api/sites/${site.id}/pages/${page.id}/pointed`, {
        start: characters(letters(bytes), place.start),
        child: 0,
      });
      if (pointed.status !== 200 || pointed.body.text !== place.words.replace(/\s+/g, ' ')) continue;
      await decide(site, {
        kind: 'touch',
        touch: { kind: 'text', scope: { kind: 'page', page: page.id }, place: pointed.body.anchor, to: 'Words & more' },
      });
      await site.publish();
      const edited = (text: string) =>
        text.slice(0, place.from) + 'Words &amp; more' + text.slice(place.from + place.words.length);
      const wrong = await wrongWith(site, {
        ...AS_IMPORTED,
        source: (each, own) => (each === path ? Buffer.from(edited(letters(own)), 'latin1') : own),
      });
      return wrong;
    }
    return 'no plain text';
  },
};

export const sectionRemoved: Act = {
  name: 'section removed and put back',
  async run(site) {
    for (const path of mostLinked(site).slice(0, 12).concat(pagesOf(site).slice(0, 2))) {
      const page = await rowAt(site, path);
      const { body } = await site.client.get<PageInside>(`/api/sites/${site.id}/pages/${page.id}/inside`);
      const section = body.sections[1];
      if (!section) continue;
      await decide(site, {
        kind: 'remove',
        thing: { kind: 'section', page: page.id, section: { name: section.name, nth: section.nth } },
        standIn: { kind: 'none' },
        links: 'kept',
        why: '',
        newHome: null,
      });
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
      if (
        following &&
        !/…$/.test(following) &&
        plainWords(cut).includes(plainWords(following)) &&
        plainWords(following).length > 8 &&
        !plainWords(section.name).includes(plainWords(following))
      )
        wrong.push(`${path}: “${following}” went along with “${section.name}”`);
      wrong.push(
        ...(await wrongWith(site, {
          ...AS_IMPORTED,
          source: (each, own) => (each === path ? Buffer.from(after, 'latin1') : own),
        })),
      );
      const { version } = await site.client.overview(site.id);
      await decide(site, { kind: 'put-back', things: [{ of: version }], where: 'in-place', taken: 'stop' });
      await site.publish();
      wrong.push(...(await wrongWith(site, AS_IMPORTED)).map((words) => `put back: ${words}`));
      return wrong;
    }
    return 'no sections';
  },
};

/** A cut can be named by several positions where what goes begins as what follows; the one that begins with a tag is meant. */
function rotated(before: string, start: number, length: number): string {
  for (let at = start; at >= Math.max(0, start - length); at -= 1) {
    if (
      /^\s*<[a-z]/i.test(before.slice(at, at + 40)) &&
      before.slice(at, start) === before.slice(at + length, start + length)
    )
      return before.slice(at, at + length);
  }
  return before.slice(start, start + length);
}

const plainWords = (html: string): string =>
  html
    .replace(/<[^>]*>/g, ' ')
    .replace(/&\w+;/g, ' ')
    .replace(/[^\x21-\x7e]+/g, ' ')
    .trim();
const NO_END = new Set([
  'br',
  'hr',
  'img',
  'input',
  'meta',
  'link',
  'col',
  'area',
  'base',
  'embed',
  'source',
  'track',
  'wbr',
  'p',
  'li',
  'dt',
  'dd',
  'tr',
  'td',
  'th',
  'tbody',
  'thead',
  'option',
  'basefont',
]);

/** Tags of a piece that are not closed in it, or close what is not open. */
function unbalanced(piece: string): string[] {
  const open: string[] = [];
  const wrong: string[] = [];
  for (const [tag, slash, name = '', self] of piece
    .replace(/<!--[^]*?-->|<(script|style)\b[^]*?<\/\1>/gi, '')
    .matchAll(/<(\/?)([a-z][a-z0-9]*)\b[^>]*?(\/?)>/gi)) {
    const lower = name.toLowerCase();
    if (NO_END.has(lower) || self === '/') continue;
    if (slash === '') open.push(lower);
    else if (open.at(-1) === lower) open.pop();
    else if (open.includes(lower)) open.splice(open.lastIndexOf(lower), 1);
    else wrong.push(tag);
  }
  return [...wrong, ...open.map((name) => `<${name}>`)];
}

export const duplicated: Act = {
  name: 'page duplicated',
  async run(site) {
    const [chosen] = mostLinked(site);
    if (chosen === undefined) return 'no other page';
    const page = await rowAt(site, chosen);
    const { made } = await decide(site, { kind: 'duplicate', page: page.id, title: 'Quite a copy' });
    const copy = (await site.client.pages(site.id)).find(({ id }) => id === made);
    await site.publish();
    const wrong = await wrongWith(site, AS_IMPORTED);
    const [was, now] = [
      letters(site.files[chosen] as Uint8Array),
      letters((await site.visit(copy?.address ?? '')).bytes),
    ];
    const [old, fresh] = [linksOf(was, addressOf(chosen)), linksOf(now, copy?.address ?? '')];
    old.forEach(({ to, words }, index) => {
      const own = (address: string, here: string) =>
        address === here || address.startsWith(`${here}#`) ? address.slice(here.length) : address;
      // A link to the page itself means it, or, where it says nothing, whichever page it stands on.
      if (to === addressOf(chosen) && [copy?.address, to].includes(fresh[index]?.to)) return;
      if (own(to, addressOf(chosen)) !== own(fresh[index]?.to ?? '', copy?.address ?? ''))
        wrong.push(`copy of ${chosen}: “${words}” led to ${to} and leads to ${fresh[index]?.to}`);
    });
    if (!now.includes('<title>Quite a copy</title>') && !/<TITLE>Quite a copy<\/TITLE>/i.test(now))
      wrong.push(`copy of ${chosen}: has another title`);
    return wrong;
  },
};

export const newerExport: Act = {
  name: 'newer export',
  async run(site) {
    const pages = mostLinked(site);
    const path = pages.find((each) => plainText(letters(site.files[each] as Uint8Array)));
    const place = path === undefined ? undefined : plainText(letters(site.files[path] as Uint8Array));
    if (path === undefined || !place) return 'no plain text';
    const title = pages.find((each) => each !== path);
    if (title !== undefined)
      await decide(site, { kind: 'title', page: (await rowAt(site, title)).id, title: 'Kept from before' });
    const text = letters(site.files[path] as Uint8Array);
    const newer = Buffer.from(
      `${text.slice(0, place.from)}Said anew in the export${text.slice(place.from + place.words.length)}`,
      'latin1',
    );
    const files = { ...site.files, [path]: newer };
    await site.client.bringIn(site.id, await site.zip(files));
    await site.publish();
    const titled = (own: string) => own.replace(/(<title[^>]*>)[^<]*(<\/title>)/i, '$1Kept from before$2');
    const hasTitle =
      title !== undefined && /<title[^>]*>[^<]*<\/title>/i.test(letters(site.files[title] as Uint8Array));
    const wrong = await wrongWith(
      { ...site, files },
      {
        ...AS_IMPORTED,
        source: (each, own) => (each === title && hasTitle ? Buffer.from(titled(letters(own)), 'latin1') : own),
      },
    );
    return wrong.filter((words) => hasTitle || !words.startsWith(`${title}: bytes`));
  },
};
