import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { unread } from '../index.ts';
import {
  readFeedTemplate,
  fillTemplate,
  guessColumns,
  judgeKind,
  readCount,
  readIndexPage,
  readLogLine,
  readPasted,
  Tally,
} from './index.ts';

describe('a line of an access log', () => {
  // The examples of the Apache HTTP Server 2.4 documentation, "Log Files" (logs.html).
  const COMMON = '127.0.0.1 - frank [10/Oct/2000:13:55:36 -0700] "GET /apache_pb.gif HTTP/1.0" 200 2326';
  const COMBINED = `${COMMON} "http://www.example.com/start.html" "Mozilla/4.08 [en] (Win98; I ;Nav)"`;

  it('is read in the common format', () => {
    expect(readLogLine(COMMON)).toEqual({
      method: 'GET',
      target: '/apache_pb.gif',
      status: 200,
      atMs: Date.UTC(2000, 9, 10, 20, 55, 36),
      referrer: undefined,
      agent: undefined,
    });
  });

  it('is read in the combined format', () => {
    expect(readLogLine(COMBINED)).toMatchObject({
      target: '/apache_pb.gif',
      referrer: 'http://www.example.com/start.html',
      agent: 'Mozilla/4.08 [en] (Win98; I ;Nav)',
    });
  });

  it('may name the host first, hold escaped quotes, or say nothing of bytes, referrer and browser', () => {
    expect(readLogLine(`www.example.org:80 ${COMBINED}`)?.target).toBe('/apache_pb.gif');
    expect(
      readLogLine('::1 - - [01/Jan/2026:00:00:00 +0000] "GET /a\\"b\\xc3\\xa9 HTTP/2.0" 304 - "-" "-"'),
    ).toMatchObject({ target: '/a"bÃ©', status: 304, referrer: undefined, agent: undefined });
    expect(readLogLine('10.0.0.1 - a user [01/Jan/2026:00:00:00 +0130] "HEAD / HTTP/1.1" 200 0')?.atMs).toBe(
      Date.UTC(2025, 11, 31, 22, 30),
    );
  });

  it('is none when it is rubbish, however long', () => {
    for (const line of [
      '',
      'hello',
      '\u0000\u0001\u0002',
      COMMON.replace('Oct', 'Okt'),
      COMMON.replace('GET /apache_pb.gif HTTP/1.0', '\\x16\\x03\\x01'),
      `1 - - [${'x'.repeat(30)}] "GET / HTTP/1.0" 200 1`,
    ])
      expect(readLogLine(line)).toBeUndefined();
    expect(readLogLine(`1.1.1.1 - - [10/Oct/2000:13:55:36 -0700] "GET /${'a\\"'.repeat(100_000)}`)).toBeUndefined();
  });

  it('gives the time that the clock of the platform gives', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 4_102_444_799 }), (second) => {
        const date = new Date(second * 1000);
        const [, month] = date.toUTCString().split(' ').slice(1, 3);
        const two = (n: number) => String(n).padStart(2, '0');
        const time = `${two(date.getUTCDate())}/${month}/${date.getUTCFullYear()}:${two(date.getUTCHours())}:${two(date.getUTCMinutes())}:${two(date.getUTCSeconds())} +0000`;
        expect(readLogLine(`1.1.1.1 - - [${time}] "GET / HTTP/1.0" 200 1`)?.atMs).toBe(second * 1000);
      }),
    );
  });
});

describe('a tally of requests', () => {
  const request = (target: string, more: object = {}) => ({
    method: 'GET',
    target,
    status: 200,
    atMs: 1000,
    referrer: undefined,
    agent: undefined,
    ...more,
  });

  it('adds the spellings of one address up and tells people from robots', () => {
    const tally = new Tally();
    for (const target of ['/a%7eb', '/a~b', '/x/../a~b']) tally.add(request(target));
    tally.add(request('/a~b', { agent: 'SomeBot/2.1 (+http://bot.example)', atMs: 5000, status: 404 }));
    tally.add(request('/a~b', { method: 'POST' }));
    expect([...tally.all()]).toEqual([
      {
        address: '/a~b',
        visits: 3,
        robotVisits: 1,
        answered: 3,
        referred: 0,
        lastSeenMs: 5000,
        status: 404,
      },
    ]);
  });
});

describe('what an old address is', () => {
  const asked = (more: object = {}) => ({ visits: 1, robotVisits: 0, answered: 0, referred: 0, ...more });

  it.each([
    ['/news/2016/', undefined, true, { kind: 'page' }],
    ['/downloads/guide.pdf', undefined, true, { kind: 'file' }],
    ['/style/main.css?v=3', undefined, true, { kind: 'noise', why: 'part of a page' }],
    ['/.env', asked(), false, { kind: 'noise', why: 'probe' }],
    ['/.well-known/security.txt', asked({ answered: 1 }), false, { kind: 'file' }],
    ['/cgi-bin/search?q=moon', asked({ answered: 3 }), false, { kind: 'page' }],
    ['/cgi-bin/luci', asked(), false, { kind: 'noise', why: 'probe' }],
    ['/guessed', asked(), false, { kind: 'noise', why: 'never answered' }],
    ['/dead-link', asked({ referred: 1 }), false, { kind: 'page' }],
    ['/dead-link', asked(), true, { kind: 'page' }],
    ['/guessed', asked({ visits: 0, robotVisits: 4 }), false, { kind: 'noise', why: 'only robots' }],
    ['/a/b/b/b/b/', undefined, true, { kind: 'noise', why: 'endless' }],
  ] as const)('%s, asked for %o', (address, log, isListed, kind) => {
    expect(judgeKind(address, log, isListed)).toEqual(kind);
  });
});

describe('what is pasted', () => {
  it('may be lines, with what is none told line by line', () => {
    expect(readPasted('/a\nhttps://old.example/b?x=1#part\n\nwords only\nold.example/c\n/bad%zz')).toEqual({
      addresses: [
        { address: '/a', host: undefined, title: undefined },
        { address: '/b?x=1', host: 'old.example', title: undefined },
        { address: '/c', host: 'old.example', title: undefined },
        { address: '/bad%25zz', host: undefined, title: undefined },
      ],
      notRead: [{ line: 4, text: 'words only', why: unread('no-address-in-line') }],
    });
  });

  it('may be the source of a page, whose links have titles', () => {
    expect(
      readPasted(
        '<ul><li><a href="/x?a=1&amp;b=2">The  old page</a><li><a href="javascript:void(0)">no</a><a href="#top">up</a>',
      ).addresses,
    ).toEqual([{ address: '/x?a=1&b=2', host: undefined, title: 'The old page' }]);
  });

  it.each<[string, string | undefined]>([
    ['<a href="/x"><b>About</b> <span>us</span></a>', 'About us'],
    ['<a href="/x"><img src="a.png" alt="Home"></a>', 'Home'],
    ['<a href="/x"><img src="a.png" alt="Home"> and more</a>', 'and more'],
    ['<a href="/x"><img src="a.png"></a>', undefined],
    ['<a href="/x">https://old.example/x</a>', undefined],
    ['<a href="/x"><script>no()</script> \n </a>', undefined],
    [`<a href="/x">${'a'.repeat(301)}</a>`, 'a'.repeat(300)],
    ['<map><area href="/x" alt="Tower"></map><a>', 'Tower'],
  ])('%s says its title', (text, title) =>
    expect(readPasted(text).addresses).toEqual([{ address: '/x', host: undefined, title }]),
  );

  // Sitemaps 0.9, "XML tag definitions": what is pasted is the same as the file.
  it('may be the source of a sitemap', () => {
    const entries =
      '<url><loc>https://old.example/a?b=1&amp;c=2</loc></url><url><loc>\n https://old.example/d </loc></url>';
    const found = ['/a?b=1&c=2', '/d'].map((address) => ({ address, host: 'old.example', title: undefined }));
    expect(readPasted(entries).addresses).toEqual(found);
    const whole = `<?xml version="1.0"?>\n<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">${entries}</urlset>`;
    expect(readPasted(whole).addresses).toEqual(found);
  });

  // RSS 2.0, "Elements of <item>": its addresses are text, and its `link` is no link of HTML.
  it('may be the source of a feed, whose addresses stand between its tags', () => {
    const item = (name: string) => `<item><title>${name}</title><link>https://old.example/${name}</link></item>`;
    const feed = `<rss xmlns:atom="http://www.w3.org/2005/Atom"><channel>${item('a')}${item('b?c=1&amp;d')}</channel></rss>`;
    expect(readPasted(feed).addresses.map(({ host, address }) => `${host}${address}`)).toEqual([
      'old.example/a',
      'old.example/b?c=1&d',
    ]);
  });

  it('never throws, whatever it is', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 300 }), (text) => {
        readPasted(text);
      }),
    );
  });
});

describe('the columns of a table', () => {
  it('are guessed by name and content, and only as far as they fit', () => {
    expect(
      guessColumns([
        ['Page', 'Clicks', 'Title', 'Status code'],
        ['/a.html', '1,234', 'A', '200'],
        ['/b.html', '3', 'B', '404'],
      ]),
    ).toEqual({ columns: { address: 0, visits: 1, title: 2, status: 3 }, hasNames: true });
    expect(
      guessColumns([
        ['12', 'https://old.example/a'],
        ['7', 'https://old.example/b'],
      ]),
    ).toEqual({ columns: { address: 1, visits: 0 }, hasNames: false });
    expect(
      guessColumns([
        ['new url', 'old url'],
        ['/n/', '/o.php?id=1'],
      ]),
    ).toEqual({ columns: { address: 1, target: 0 }, hasNames: true });
    expect(
      guessColumns([
        ['name', 'colour'],
        ['ball', 'red'],
      ]).columns.address,
    ).toBeUndefined();
    expect(guessColumns([])).toEqual({ columns: {}, hasNames: false });
  });

  it('hold numbers as people write them', () => {
    expect(['1,234', '1.234.567', '1 234', '12', '1.5', 'x', ''].map(readCount)).toEqual([
      1234,
      1234567,
      1234,
      12,
      undefined,
      undefined,
      undefined,
    ]);
  });
});

describe('a search index', () => {
  // After the examples of OpenSearch 1.1 draft 6, "Examples of OpenSearch description documents" and "Response elements" (from memory).
  const DESCRIPTION = `<?xml version="1.0" encoding="UTF-8"?>
    <OpenSearchDescription xmlns="http://a9.com/-/spec/opensearch/1.1/">
      <ShortName>Web Search</ShortName>
      <Url type="application/rss+xml" template="http://example.com/?q={searchTerms}&amp;pw={startPage?}&amp;format=rss"/>
      <Url type="application/atom+xml" indexOffset="0" template="http://example.com/?q={searchTerms}&amp;start={startIndex?}&amp;format=atom"/>
      <Url type="text/html" template="http://example.com/?q={searchTerms}"/>
    </OpenSearchDescription>`;

  it('is asked by its template, Atom before RSS', () => {
    expect(readFeedTemplate(DESCRIPTION)).toEqual({
      template: 'http://example.com/?q={searchTerms}&start={startIndex?}&format=atom',
      indexOffset: 0,
      pageOffset: 1,
    });
    expect(fillTemplate('http://example.com/?q={searchTerms}&pw={startPage?}', { searchTerms: 'site:a.example' })).toBe(
      'http://example.com/?q=site%3Aa.example&pw=',
    );
    expect(() => fillTemplate('/{language}', {})).toThrow(RangeError);
    expect(readFeedTemplate('<html></html>')).toBeUndefined();
  });

  it('answers in pages of Atom or RSS', () => {
    const atom =
      readIndexPage(`<feed xmlns="http://www.w3.org/2005/Atom" xmlns:opensearch="http://a9.com/-/spec/opensearch/1.1/">
      <title>Example.com Search: New York history</title><opensearch:totalResults>4230000</opensearch:totalResults>
      <link rel="next" href="http://example.com/?start=2" type="application/atom+xml"/>
      <entry><title>New York History</title><link href="http://www.columbia.edu/cu/lweb/eguids/amerihist/nyc.html"/><content type="text">... Harlem.NYC - A virtual tour</content></entry>
      <entry><title>no link</title></entry></feed>`);
    expect(atom).toEqual({
      entries: [
        {
          address: 'http://www.columbia.edu/cu/lweb/eguids/amerihist/nyc.html',
          title: 'New York History',
          summary: '... Harlem.NYC - A virtual tour',
        },
      ],
      total: 4230000,
      next: 'http://example.com/?start=2',
    });
    const rss = readIndexPage(
      '<rss version="2.0"><channel><title>t</title><item><title>A &amp; B</title><link>http://a.example/x</link><description>&lt;b&gt;bold&lt;/b&gt; text</description></item></channel></rss>',
    );
    expect(rss).toEqual({
      entries: [{ address: 'http://a.example/x', title: 'A & B', summary: 'bold text' }],
      total: undefined,
      next: undefined,
    });
    expect(readIndexPage('no feed')).toBeUndefined();
    expect(readIndexPage('<!DOCTYPE x [<!ENTITY a "b">]><feed/>')).toBeUndefined();
  });
});
