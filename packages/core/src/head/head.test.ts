/**
 * Heads: what counts, what is written, and that it reads back. Parsed by parse5 and by htmlparser2, a second
 * parser that shares no code with it. Titles and names are invented.
 */
import fc from 'fast-check';
import { parseDocument } from 'htmlparser2';
import { describe, expect, it } from 'vitest';
import { readAttribute, walkElements, parsePage, splice, collectText, type PageDocument } from '../html/index.ts';
import {
  reckonEffectiveHead,
  editHead,
  readHeadSource,
  readOwnLines,
  SettingIndex,
  keySetting,
  type HeadPage,
  type HeadSetting,
  type HeadSite,
  type PlannedLine,
} from './index.ts';

const encoder = new TextEncoder();
const decoder = new TextDecoder();
const page = (source: string) => parsePage(encoder.encode(source));

const setting = (
  scope: HeadSetting['scope'],
  name: string,
  text: HeadSetting['text'],
  own?: HeadSetting['own'],
): HeadSetting => ({ scope, name, text, own });
const EVERYWHERE = { kind: 'everywhere' } as const;
const PAGE = { kind: 'page', page: 'p' } as const;
const BRANCH = { kind: 'branch', page: 'b' } as const;

function siteWith(settings: readonly HeadSetting[], more: Partial<HeadSite> = {}): HeadSite {
  return {
    settings: new SettingIndex(new Map(settings.map((each) => [keySetting(each), each]))),
    origin: 'https://moor.example',
    name: 'Moor',
    endings: [],
    labelOf: (title) => title.replace(/ · Moor$/, ''),
    ancestorsOf: () => [{ title: 'Home', address: '/' }],
    translationsOf: () => [],
    icons: [],
    pictureSize: () => undefined,
    ...more,
  };
}
const pageWith = (more: Partial<HeadPage> = {}): HeadPage => ({
  id: 'p',
  address: '/visit/',
  isHome: false,
  title: 'Visit · Moor',
  isTitleSet: false,
  language: 'en',
  date: null,
  own: [],
  branches: ['b'],
  ...more,
});

const textOfLine = (
  settings: readonly HeadSetting[],
  name: string,
  of: Partial<HeadPage> = {},
  site: Partial<HeadSite> = {},
) => {
  const line = reckonEffectiveHead(pageWith(of), siteWith(settings, site)).lines.find((each) => each.name === name);
  return line && [line.text, line.from];
};

describe('what counts', () => {
  const author = 'meta:author';
  it.each<[string, HeadSetting[], Partial<HeadPage>, unknown]>([
    ['the site where nobody says else', [setting(EVERYWHERE, author, 'Site')], {}, ['Site', 'site']],
    [
      'the branch before the site',
      [setting(EVERYWHERE, author, 'Site'), setting(BRANCH, author, 'Branch')],
      {},
      ['Branch', 'branch'],
    ],
    [
      'the page before both',
      [setting(EVERYWHERE, author, 'Site'), setting(BRANCH, author, 'Branch'), setting(PAGE, author, 'Page')],
      {},
      ['Page', 'page'],
    ],
    [
      'nothing, where it is switched off below',
      [setting(EVERYWHERE, author, 'Site'), setting(PAGE, author, false)],
      {},
      [undefined, 'page'],
    ],
    [
      'the page’s own, whatever the site says',
      [setting(EVERYWHERE, author, 'Site')],
      { own: [{ name: author, text: 'Own' }] },
      ['Own', 'imported'],
    ],
    [
      'what is set for that very page, before its own',
      [setting(PAGE, author, 'Page')],
      { own: [{ name: author, text: 'Own' }] },
      ['Page', 'page'],
    ],
    [
      'the site’s, where it is said to replace',
      [setting(EVERYWHERE, author, 'Site', 'replaced')],
      { own: [{ name: author, text: 'Own' }] },
      ['Site', 'site'],
    ],
    [
      'the page’s own, where it is to be kept there',
      [setting(EVERYWHERE, author, 'Site', 'replaced'), setting(PAGE, author, undefined, 'kept')],
      { own: [{ name: author, text: 'Own' }] },
      ['Own', 'imported'],
    ],
    [
      'the site’s on a page where it is to replace',
      [setting(EVERYWHERE, author, 'Site'), setting(PAGE, author, undefined, 'replaced')],
      { own: [{ name: author, text: 'Own' }] },
      ['Site', 'site'],
    ],
    [
      'a branch the page is not in says nothing',
      [setting({ kind: 'branch', page: 'other' }, author, 'Branch')],
      {},
      undefined,
    ],
  ])('%s', (_, settings, of, expected) => expect(textOfLine(settings, author, of)).toEqual(expected));

  it('is the nearest of several branches', () => {
    const settings = [setting(BRANCH, author, 'Outer'), setting({ kind: 'branch', page: 'inner' }, author, 'Inner')];
    expect(textOfLine(settings, author, { branches: ['inner', 'b'] })).toEqual(['Inner', 'branch']);
  });

  it('a conflict is told until somebody decides it', () => {
    const own = { own: [{ name: author, text: 'Own' }] };
    const conflict = (settings: HeadSetting[]) =>
      reckonEffectiveHead(pageWith(own), siteWith(settings)).lines.find(({ name }) => name === author)?.conflict;
    expect(conflict([setting(EVERYWHERE, author, 'Site')])).toEqual({ text: 'Site', from: 'site' });
    expect(conflict([setting(EVERYWHERE, author, 'Own')])).toBeUndefined();
    expect(conflict([setting(EVERYWHERE, author, 'Site'), setting(PAGE, author, undefined, 'kept')])).toBeUndefined();
    expect(conflict([setting(EVERYWHERE, author, 'Site', 'replaced')])).toBeUndefined();
  });

  it('nothing is written that nobody asked for', () =>
    expect(
      reckonEffectiveHead(pageWith({ own: [{ name: 'meta:description', text: 'Own' }] }), siteWith([])).plan,
    ).toEqual([]));
});

describe('what is computed', () => {
  const on = (name: string) => setting(EVERYWHERE, name, 'on');
  it('titles take their form once', () => {
    const form = [setting(EVERYWHERE, 'pattern', '{page} – {site}')];
    expect(textOfLine(form, 'title')).toEqual(['Visit – Moor', 'site']);
    expect(textOfLine(form, 'title', { title: 'Visit – Moor' })).toEqual(['Visit – Moor', 'imported']);
    expect(textOfLine(form, 'title', { title: 'Come', isTitleSet: true })).toEqual(['Come – Moor', 'site']);
    expect(textOfLine([...form, setting(EVERYWHERE, 'tagline', 'Dark skies')], 'title', { title: 'Moor' })).toEqual([
      'Moor – Dark skies',
      'site',
    ]);
    expect(textOfLine([...form, setting(BRANCH, 'name', 'Rhos')], 'title')).toEqual(['Visit – Rhos', 'site']);
    expect(textOfLine([...form, setting(BRANCH, 'pattern', false)], 'title')).toEqual(['Visit · Moor', 'imported']);
  });

  it('the canonical address is the main address and the page’s own', () => {
    expect(textOfLine([on('canonical')], 'link:canonical')).toEqual(['https://moor.example/visit/', 'computed']);
    expect(textOfLine([on('canonical')], 'link:canonical', {}, { origin: undefined })).toBeUndefined();
    expect(textOfLine([on('canonical'), setting(PAGE, 'link:canonical', '/come/')], 'link:canonical')).toEqual([
      'https://moor.example/come/',
      'page',
    ]);
  });

  it('a share card from what the page says', () => {
    const { lines } = reckonEffectiveHead(
      pageWith({ date: '2026-01-02' }),
      siteWith(
        [on('share'), setting(PAGE, 'meta:description', 'Come by bus'), setting(EVERYWHERE, 'meta:og:image', '/p.jpg')],
        { pictureSize: () => ({ widthPx: 1200, heightPx: 630 }) },
      ),
    );
    expect(
      Object.fromEntries(
        lines.filter(({ name }) => name.startsWith('meta:og:')).map(({ name, text }) => [name.slice(8), text]),
      ),
    ).toEqual({
      title: 'Visit',
      description: 'Come by bus',
      image: 'https://moor.example/p.jpg',
      'image:width': '1200',
      'image:height': '630',
      url: 'https://moor.example/visit/',
      type: 'article',
      site_name: 'Moor',
    });
  });

  it('a share card and data call the page what it alone is called, whatever the form of titles', () => {
    const settings = [on('share'), on('article'), setting(EVERYWHERE, 'pattern', '{page} – {site}')];
    expect(textOfLine(settings, 'meta:og:title')).toEqual(['Visit', 'computed']);
    expect(
      reckonEffectiveHead(pageWith({ date: '2026-01-02' }), siteWith(settings)).plan.find(
        ({ name }) => name === 'json:article',
      )?.text,
    ).toContain('"headline": "Visit"');
  });

  it('links between languages hold in both directions, with one for everybody else', () => {
    const both = [
      { language: 'en', address: '/visit/' },
      { language: 'cy', address: '/cy/visit/' },
    ];
    const links = (of: Partial<HeadPage>) =>
      reckonEffectiveHead(pageWith(of), siteWith([on('alternates')], { translationsOf: () => both })).plan.map(
        ({ text, attributes }) => [attributes?.['hreflang'], text],
      );
    expect(links({})).toEqual([
      ['en', 'https://moor.example/visit/'],
      ['cy', 'https://moor.example/cy/visit/'],
      ['x-default', 'https://moor.example/visit/'],
    ]);
    expect(links({ id: 'q', address: '/cy/visit/', language: 'cy' })).toEqual(links({}));
    // A page that is shut to search has no part in it.
    expect(links({ own: [{ name: 'meta:robots', text: 'noindex' }] })).toEqual([]);
  });

  it('data for breadcrumbs and dated entries', () => {
    const data = (settings: HeadSetting[], of: Partial<HeadPage> = {}) =>
      reckonEffectiveHead(pageWith(of), siteWith(settings)).plan.map(
        ({ text }) => JSON.parse(String(text)) as Record<string, unknown>,
      );
    expect(data([on('breadcrumb')])[0]).toMatchObject({
      '@type': 'BreadcrumbList',
      itemListElement: [
        { position: 1, item: 'https://moor.example/' },
        { position: 2, name: 'Visit', item: 'https://moor.example/visit/' },
      ],
    });
    expect(data([on('article')])).toEqual([]);
    expect(data([on('article')], { date: '2026-01-02' })[0]).toMatchObject({
      '@type': 'Article',
      datePublished: '2026-01-02',
    });
    expect(data([on('event')], { date: '2026-01-02' })[0]).toMatchObject({ '@type': 'Event', startDate: '2026-01-02' });
  });
});

const SOURCE =
  '<!DOCTYPE html>\n<html lang="en">\n<head>\n  <meta charset="utf-8">\n  <title>Visit</title>\n  <meta name="Author" content="Own">\n  <meta name="author" content="Twice">\n  <link rel="icon" href="/old.ico">\n</head>\n<body>\n<p>Text</p>\n</body>\n</html>\n';
const written = (source: string, plan: readonly PlannedLine[]) => {
  const bytes = encoder.encode(source);
  const document = parsePage(bytes);
  return decoder.decode(splice(bytes, document.source, editHead(document, plan)));
};
const line = (name: string, text: string | false, attributes?: Record<string, string>): PlannedLine => ({
  name,
  from: 'page',
  text,
  ...(attributes ? { attributes } : {}),
});

describe('what is written', () => {
  it('stands in the place of what stood there, and in it once', () =>
    expect(written(SOURCE, [line('meta:author', 'New')])).toBe(
      SOURCE.replace('content="Own"', 'content="New"').replace('\n  <meta name="author" content="Twice">', ''),
    ));
  it('goes with its line where nothing is to stand there', () =>
    expect(written(SOURCE, [line('meta:author', false)])).toBe(
      SOURCE.replace('\n  <meta name="Author" content="Own">\n  <meta name="author" content="Twice">', ''),
    ));
  it('comes behind the title, indented like it', () =>
    expect(written(SOURCE, [line('meta:description', 'Come')])).toBe(
      SOURCE.replace('</title>', '</title>\n  <meta name="description" content="Come">'),
    ));
  it('puts data before the end of the head and code before the end of the body', () => {
    expect(
      written(SOURCE, [line('json:data', '{"a":"</script>"}'), line('code:end', '<script src="/s.js"></script>')]),
    ).toBe(
      SOURCE.replace(
        '</head>',
        '<script type="application/ld+json">\n{"a":"\\u003c/script>"}\n</script>\n</head>',
      ).replace('</body>', '<script src="/s.js"></script>\n</body>'),
    );
  });
  it('writes links with what they have to say, and closes them as the page does', () => {
    expect(
      written('<html><head><meta charset="utf-8" /><title>x</title></head></html>', [
        line('link:alternate:cy', 'https://m.example/cy/', { hreflang: 'cy' }),
      ]),
    ).toBe(
      '<html><head><meta charset="utf-8" /><title>x</title>\n<link rel="alternate" hreflang="cy" href="https://m.example/cy/" /></head></html>',
    );
  });
  it.each([
    ['no head', '<p>x'],
    ['nothing', ''],
    ['an open title', '<title>x'],
    ['no html', '<body><title>t</title>'],
  ])('finds a place in a page with %s', (_, source) => {
    expect(readOwnLines(page(written(source, [line('meta:description', 'Come')])))).toEqual([
      { name: 'meta:description', text: 'Come' },
    ]);
  });
});

describe('what is written reads back', () => {
  const hostile = fc
    .oneof(
      fc.string(),
      fc.string({ unit: 'binary' }),
      fc.constantFrom(
        '"><script>alert(1)</script>',
        '</title><p>',
        '&amp;',
        '\u202e',
        '🏠 ☃',
        '</script><!--<script>',
        "' onload='x",
        '<!--',
        ']]>',
        'a\u0000b',
      ),
    )
    .map((text) =>
      text
        .replace(/[\0\r]/g, '')
        .replace(/[\ud800-\udfff]/gu, '')
        .replace(/[\t\n\f ]+/g, ' ')
        .trim(),
    )
    .filter((text) => text !== '');
  const pages = fc.constantFrom(
    SOURCE,
    '',
    '<p>x',
    '<html><head></head><body></body></html>',
    '<meta charset=utf-8><title>t</title><meta name=description content=x>',
    SOURCE.replaceAll('\n', '\r\n'),
  );

  /** Metas by name, and the title, as the second parser sees them. */
  const second = (source: string) => {
    const metas: [string, string][] = [];
    let title = '';
    const walk = (
      nodes: readonly {
        readonly type: string;
        readonly name?: string;
        readonly attribs?: Record<string, string>;
        readonly children?: readonly never[];
        readonly data?: string;
      }[],
    ): void => {
      for (const node of nodes) {
        if (node.name === 'meta' && node.attribs?.['name'] !== undefined)
          metas.push([node.attribs['name'].toLowerCase(), node.attribs['content'] ?? '']);
        if (node.name === 'title' && title === '')
          title = (node.children ?? []).map(({ data = '' }: { data?: string }) => data).join('');
        if (node.children && node.name !== 'script') walk(node.children);
      }
    };
    walk(parseDocument(source).children as never);
    return { metas: new Map(metas.reverse()), title };
  };

  it('by two parsers, whatever the text (property)', () => {
    fc.assert(
      fc.property(pages, hostile, hostile, (source, description, title) => {
        const out = written(source, [line('title', title), line('meta:description', description)]);
        const document = page(out);
        expect(
          readOwnLines(document)
            .filter(({ name }) => name === 'meta:description')
            .map(({ text }) => text),
        ).toEqual([description]);
        expect(titleOf(document)).toBe(title);
        const other = second(out);
        expect(other.metas.get('description')).toBe(description);
        expect(other.title).toBe(title);
        expect(scripts(document)).toBe(0);
      }),
    );
  });

  it('as data inside script, in every encoding (property)', () => {
    fc.assert(
      fc.property(hostile, fc.constantFrom('utf-8', 'windows-1252'), (text, charset) => {
        const source = `<html><head><meta charset="${charset}"><title>x</title></head><body></body></html>`;
        const bytes = encoder.encode(source);
        const document = parsePage(bytes);
        const out = parsePage(
          splice(bytes, document.source, editHead(document, [line('json:data', JSON.stringify({ name: text }))])),
        );
        const script = [...walkElements(out.root)].find(({ tagName }) => tagName === 'script');
        const inside = script?.childNodes.map((node) => ('value' in node ? node.value : '')).join('') ?? '';
        expect(JSON.parse(inside)).toEqual({ name: text });
        expect(scripts(out)).toBe(1);
      }),
    );
  });

  it('as what it was planned to be, and a second time there is nothing to do (property)', () => {
    const names = fc.constantFrom('meta:description', 'meta:author', 'meta:og:title', 'link:canonical', 'language');
    fc.assert(
      fc.property(
        pages,
        fc.uniqueArray(fc.tuple(names, hostile), { selector: ([name]) => name, maxLength: 5 }),
        (source, lines) => {
          const out = written(
            source,
            lines.map(([name, text]) => line(name, text)),
          );
          const document = page(out);
          const settings = lines
            .filter(([name]) => name !== 'language')
            .map(([name, text]) => setting(PAGE, name, text));
          const again = reckonEffectiveHead(
            pageWith({ own: readOwnLines(document) }),
            siteWith(settings, { origin: undefined }),
          );
          expect(again.plan).toEqual([]);
        },
      ),
    );
  });

  const titleOf = (document: PageDocument) => {
    const title = [...walkElements(document.root)].find(({ tagName }) => tagName === 'title');
    return title ? collectText(title) : '';
  };
  const scripts = (document: PageDocument) =>
    [...walkElements(document.root)].filter(({ tagName }) => tagName === 'script').length;
});

it('the source is told line by line', () => {
  expect(readHeadSource(page(SOURCE)).map(({ source, name, text }) => [source, name, text])).toEqual([
    ['<html lang="en">', 'language', 'en'],
    ['<meta charset="utf-8">', undefined, ''],
    ['<title>Visit</title>', 'title', 'Visit'],
    ['<meta name="Author" content="Own">', 'meta:author', 'Own'],
    ['<meta name="author" content="Twice">', 'meta:author', 'Twice'],
    ['<link rel="icon" href="/old.ico">', 'link:icon', '/old.ico'],
  ]);
  expect(readAttribute(page(SOURCE).root.childNodes[1] as never, 'lang')).toBe('en');
});
