/**
 * Tables, requests and pasted texts in small. Sources: RFC 9110, section 9.3 (methods) and 15 (statuses); OpenSearch 1.1
 * draft 6, "URL template syntax"; RFC 4287, section 4.2.7.2 (`rel`). What columns are called, what robots say of
 * themselves and what probes ask for is common practice, no source.
 */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  readFeedTemplate,
  fillTemplate,
  guessColumns,
  isRobot,
  judgeKind,
  readCount,
  readIndexPage,
  readLogLine,
  readPasted,
  Tally,
  type TallyOptions,
} from './index.ts';

describe('columns of a table', () => {
  const columnsOf = (names: string[], ...rows: string[][]) => guessColumns([names, ...rows]).columns;

  it.each([
    'url',
    'URL',
    'Old URL',
    'old-url',
    'source_path',
    'From',
    'Page',
    'Pages',
    'Top pages',
    'Landing page',
    'request uri',
    'Link',
    'Address path',
    'Adresse',
    'Cyfeiriad',
    'old',
    'source',
  ])('%s is of old addresses', (name) =>
    expect(columnsOf(['Other', name], ['/b', '/a'])).toMatchObject({ address: 1 }),
  );

  it.each(['New URL', 'target', 'To', 'Destination page', 'redirect to', 'new'])('%s is of new ones', (name) => {
    expect(columnsOf([name, 'x'], ['/b', '/a'])).toEqual({ address: 1, target: 0 });
  });

  it.each<[string, string, object]>([
    ['Visits', '12', { visits: 1 }],
    ['Page views', '1.200', { visits: 1 }],
    ['Besuche', '3', { visits: 1 }],
    ['Clicks', 'many', {}],
    ['Status', '404', { status: 1 }],
    ['Response code', ' 404 ', { status: 1 }],
    ['Status', '4040', {}],
    ['Last seen', 'May', { lastSeen: 1 }],
    ['Date', '', { lastSeen: 1 }],
    ['Title', '', { title: 1 }],
    ['Heading', 'x', { title: 1 }],
    ['Colour', 'red', {}],
  ])('%s of %j is %j', (name, cell, more) =>
    expect(columnsOf(['url', name], ['/a', cell])).toEqual({ address: 0, ...more }),
  );

  it('are each one thing, and named ones before others', () => {
    expect(columnsOf(['Page title', 'url', 'Title'], ['x', '/a', 'y'])).toEqual({ address: 1, title: 0 });
    expect(columnsOf(['Status', 'Status code', 'url'], ['x', '404', '/a'])).toEqual({ address: 2 });
  });

  it('have names only where addresses stand below and none in the first line', () => {
    expect(guessColumns([['/a', '1']]).hasNames).toBe(false);
    expect(guessColumns([['url', 'x']]).hasNames).toBe(false);
    expect(guessColumns([['url'], ['/a']]).hasNames).toBe(true);
    expect(guessColumns([['/a'], ['/b']]).hasNames).toBe(false);
    expect(guessColumns([['url'], ['words']]).hasNames).toBe(false);
  });

  it('without names are told by what they hold, at least half of it', () => {
    expect(columnsOf(['/a', '/b'], ['/c', '/d'])).toEqual({ address: 0, target: 1 });
    expect(columnsOf(['12', '/a'], ['7', '/b'])).toEqual({ address: 1, visits: 0 });
    expect(columnsOf(['x', '/a'], ['7', '/b'], ['8', '/c'])).toEqual({ address: 1 });
    expect(columnsOf(['/a', 'x'], ['y', 'x'], ['z', 'x'])).toEqual({});
    expect(columnsOf(['/a', 'x'], ['y', 'x'])).toEqual({ address: 0 });
  });

  it.each([
    ['https://old.example/a', true],
    ['http://old.example', true],
    ['/a', true],
    ['/a b', false],
    ['www.old.example', true],
    ['old.example/a', true],
    ['a.html', true],
    ['a.htm?b', true],
    ['a.php', true],
    ['a.aspx', true],
    ['a.pdf', false],
    ['old.example', false],
    ['words', false],
    ['https://', false],
    ['see /a', false],
    ['ftp://old.example/a', false],
  ])('%s is an address: %s', (cell, isOne) => expect(columnsOf([cell])).toEqual(isOne ? { address: 0 } : {}));

  it.each<[string, number | undefined]>([
    [' 12 ', 12],
    ['1’234', 1234],
    ["1'234", 1234],
    ['1\u00a0234', 1234],
    ['1,23', undefined],
    ['1,2345', undefined],
    ['-1', undefined],
    ['123456789012345', 123_456_789_012_345],
    ['1234567890123456', undefined],
    ['12 visits', undefined],
  ])('%j is the count %s', (cell, count) => expect(readCount(cell)).toBe(count));
});

describe('requests added up', () => {
  const request = (more: object = {}) => ({
    method: 'GET',
    target: '/a',
    status: 200,
    atMs: 1000,
    referrer: undefined,
    agent: undefined,
    ...more,
  });
  const tallied = (...requests: ReturnType<typeof request>[]) => {
    const tally = new Tally();
    for (const each of requests) tally.add(each);
    return [...tally.all()];
  };

  it.each([
    ['HEAD', 1],
    ['POST', 0],
    ['OPTIONS', 0],
  ])('by %s: %d', (method, count) => expect(tallied(request({ method }))).toHaveLength(count));

  it.each([
    [199, 0],
    [200, 1],
    [304, 1],
    [399, 1],
    [400, 0],
    [404, 0],
  ])('with %d are answered %d times', (status, answered) =>
    expect(tallied(request({ status }))[0]).toMatchObject({ answered, status }),
  );

  it('know who sent them, where from, and the last one', () => {
    expect(
      tallied(
        request({ referrer: 'https://x.example/' }),
        request({ agent: 'Googlething/1 bot;', atMs: 500, status: 404 }),
        request({ atMs: 2000, status: 301 }),
      ),
    ).toEqual([
      {
        address: '/a',
        visits: 2,
        robotVisits: 1,
        answered: 2,
        referred: 1,
        lastSeenMs: 2000,
        status: 301,
      },
    ]);
    expect(tallied(request(), request({ status: 404 }))[0]).toMatchObject({ lastSeenMs: 1000, status: 404 });
  });

  it('are of an old domain that is told apart, of the site itself, and of nothing that is no address', () => {
    const requests = [request({ target: 'http://old.example/a' }), request(), request({ target: 'javascript:x' })];
    const count = (options: Partial<TallyOptions>) => {
      const tally = new Tally(options);
      for (const each of requests) tally.add(each);
      return [...tally.all()].map(({ address, visits }) => [address, visits]);
    };
    expect(count({})).toEqual([['/a', 2]]);
    const domains = new Set(['old.example']);
    expect(count({ domains })).toEqual([
      ['//old.example/a', 1],
      ['/a', 1],
    ]);
    expect(count({ domains, domain: 'old.example' })).toEqual([['//old.example/a', 2]]);
  });

  it('are let go of where there are too many, those that failed once first, and only as many as need be', () => {
    const tally = new Tally({ most: 1000 });
    for (let n = 0; n < 250; n += 1) tally.add(request({ target: `/kept${n}` }));
    for (let n = 0; n < 750; n += 1) tally.add(request({ target: `/guess${n}`, status: 404 }));
    expect(tally.dropped).toBe(0);
    tally.add(request({ target: '/one-more' }));
    expect(tally.dropped).toBe(201);
    const left = [...tally.all()].map(({ address }) => address);
    expect(left.filter((address) => address.startsWith('/kept'))).toHaveLength(250);
    expect(left).toHaveLength(800);
  });

  it('are let go of the less visited first, and at last whatever they are', () => {
    const tally = new Tally({ most: 10 });
    const ask = (target: string, times: number) => {
      for (let n = 0; n < times; n += 1) tally.add(request({ target }));
    };
    for (let n = 0; n < 4; n += 1) ask(`/seldom${n}`, 2);
    for (let n = 0; n < 6; n += 1) ask(`/often${n}`, 10);
    ask('/one-more', 1);
    expect([...tally.all()].map(({ address }) => address).sort()).toEqual(
      ['/often0', '/often1', '/often2', '/often3', '/often4', '/often5', '/one-more', '/seldom3'].sort(),
    );
    for (let n = 0; n < 40; n += 1) ask(`/new${n}`, 10);
    expect([...tally.all()].length).toBeLessThanOrEqual(10);
  });

  it('count one address whatever letters it is asked for in, before and after it is known', () => {
    const address = fc.constantFrom('/a', '/%61', '/b/../a', '/b', '//c.example/a', 'http://c.example/%61');
    fc.assert(
      fc.property(fc.array(address, { maxLength: 30 }), (asked) => {
        const tally = new Tally({ domains: new Set(['c.example']) });
        for (const target of asked) tally.add(request({ target }));
        const counts = new Map([...tally.all()].map((each) => [each.address, each.visits]));
        const count = (...spellings: string[]) => asked.filter((each) => spellings.includes(each)).length || undefined;
        expect(counts.get('/a')).toBe(count('/a', '/%61', '/b/../a'));
        expect(counts.get('/b')).toBe(count('/b'));
        expect(counts.get('//c.example/a')).toBe(count('//c.example/a', 'http://c.example/%61'));
      }),
    );
  });

  it.each([
    ['Mozilla/5.0 (compatible; SomeBot/2.1)', true],
    ['x bot/1', true],
    ['curl/8', true],
    ['python-requests/2', true],
    ['HeadlessChrome', true],
    ['Java/17', true],
    ['Mozilla/5.0 (X11; Linux) Firefox/130.0', false],
    ['Mozilla/5.0 bottle', false],
    [undefined, false],
  ])('of %s are a robot’s: %s', (agent, isOne) => expect(isRobot(agent)).toBe(isOne));
});

describe('what an old address is', () => {
  const asked = (more: object = {}) => ({ visits: 1, robotVisits: 0, answered: 0, referred: 0, ...more });
  it.each([
    'jpg',
    'jpeg',
    'PNG',
    'pdf',
    'docx',
    'odt',
    'csv',
    'zip',
    'mp3',
    'mp4',
    'webm',
    'epub',
    'ics',
    'txt',
    'xml',
    'json',
    'rss',
  ])('a file: .%s', (ending) => {
    expect(judgeKind(`/a.${ending}?v=1`, undefined, true)).toEqual({ kind: 'file' });
  });
  it.each(['css', 'js', 'mjs', 'map', 'woff', 'woff2', 'ttf', 'eot', 'swf'])('part of a page: .%s', (ending) => {
    expect(judgeKind(`/a.${ending}`, undefined, true)).toEqual({ kind: 'noise', why: 'part of a page' });
  });
  it.each(['/a.html', '/a.php', '/a.jpg/b', '/pdf', '/a.cssx'])('a page: %s', (address) =>
    expect(judgeKind(address, undefined, true)).toEqual({ kind: 'page' }),
  );

  it.each([
    '/.git/config',
    '/a/.env',
    '/a/../b',
    '/%2e%2e/b',
    '/?q=<script',
    '/phpinfo.php',
    '/admin/',
    '/setup.cgi',
    '/xmlrpc.php',
    '/dump.sql',
    '/site.bak',
    '/a.pem',
    '/?a=union+select',
    '/?x=/etc/passwd',
    '/?x=${jndi:ldap',
  ])('a probe: %s', (address) => {
    expect(judgeKind(address, undefined, false)).toEqual({ kind: 'noise', why: 'probe' });
    expect(judgeKind(address, undefined, true)).not.toMatchObject({ why: 'probe' });
    expect(judgeKind(address, asked({ answered: 1 }), false)).not.toMatchObject({ why: 'probe' });
  });
  it.each(['/.well-known/x', '/administration/', '/installation', '/a.sqlx', '/old', '/my-config-page'])(
    'no probe: %s',
    (address) => expect(judgeKind(address, undefined, false)).not.toMatchObject({ why: 'probe' }),
  );

  it('never answered, unless somebody links to it or the site is live', () => {
    expect(judgeKind('/a', asked(), false)).toEqual({ kind: 'noise', why: 'never answered' });
    expect(judgeKind('/a', asked({ referred: 1 }), false)).toEqual({ kind: 'page' });
    expect(judgeKind('/a', asked(), false, true)).toEqual({ kind: 'page' });
    expect(judgeKind('/a', asked({ visits: 0, robotVisits: 3 }), false, true)).toEqual({
      kind: 'noise',
      why: 'only robots',
    });
    expect(judgeKind('/a', asked({ visits: 0, answered: 1 }), false)).toEqual({ kind: 'page' });
  });

  it.each([
    ['/a/b/b/b', true],
    ['/a/b/b/b/c', true],
    ['/a/b/b', false],
    ['/b/c/b/c/b/c', false],
    ['/ab/b/b', false],
    [`/${'a'.repeat(1499)}`, true],
    [`/a?${'b'.repeat(1496)}`, false],
    [`/a?${'b'.repeat(1497)}`, true],
  ])('endless: %s', (address, isOne) =>
    expect(judgeKind(address, undefined, true)).toEqual(isOne ? { kind: 'noise', why: 'endless' } : { kind: 'page' }),
  );
});

describe('what is pasted', () => {
  const found = (text: string) =>
    readPasted(text).addresses.map(({ address, host, title }) => [address, host, title].filter(Boolean).join(' '));

  it.each<[string, string[]]>([
    ['see (/a, /b) and "/c".', ['/a', '/b', '/c']],
    ['/a|/b', ['/a', '/b']],
    ['https://x.example/a, https://x.example/b.', ['/a x.example', '/b x.example']],
    ['and/or', []],
    ['old.example/a', ['/a old.example']],
    ['old.example', []],
    ['# /a', []],
    ['/a\r/b\r\n/c', ['/a', '/b', '/c']],
    ['<a href="/a">A <b>b</b> c</a><area href=/b><a href=" "><a href="#x"><link href=/d>', ['/a A b c', '/b']],
    ['<ul><a href="https://x.example/a">https://x.example/a</a>', ['/a x.example']],
    ['<loc>x</loc>/a', ['/x']],
  ])('%j', (text, addresses) => expect(found(text)).toEqual(addresses));

  it('tells what it could not read, and where', () => {
    expect(readPasted(`one two\n\n${'x'.repeat(300)}`).notRead.map(({ line, text }) => [line, text.length])).toEqual([
      [1, 7],
      [3, 200],
    ]);
    expect(readPasted('<a href="https://[bad">x</a><a href="mailto:x@y.example">y</a>').notRead).toMatchObject([
      { line: 1, text: 'https://[bad' },
    ]);
    expect(found(`<a href=/a>${'x'.repeat(400)}</a>`)[0]).toHaveLength('/a '.length + 300);
  });
});

describe('lines of logs', () => {
  const line = (time: string, request = 'GET / HTTP/1.1', rest = '200 1') =>
    readLogLine(`1.1.1.1 - - [${time}] "${request}" ${rest}`);
  it.each<[string, number | undefined]>([
    ['01/Jan/1970:00:00:00 +0000', 0],
    ['29/Feb/2024:12:00:00 +0000', Date.UTC(2024, 1, 29, 12)],
    ['01/Mar/1900:00:00:00 +0000', Date.UTC(1900, 2, 1)],
    ['31/Dec/1999:23:59:59 -0130', Date.UTC(2000, 0, 1, 1, 29, 59)],
    ['1/Jan/2026:00:00:00 +0000', Date.UTC(2026, 0, 1)],
    ['00/Jan/2026:00:00:00 +0000', undefined],
    ['32/Jan/2026:00:00:00 +0000', undefined],
    ['01/Foo/2026:00:00:00 +0000', undefined],
    ['01/Jan/26:00:00:00 +0000xx', undefined],
  ])('of %s', (time, atMs) => expect(line(time)?.atMs).toBe(atMs));

  const TIME = '01/Jan/2026:00:00:00 +0000';
  it.each([
    ['GET /a', '/a'],
    ['GET /a HTTP/2', '/a'],
    ['get /a HTTP/1.1', undefined],
    ['GET /a b HTTP/1.1', undefined],
    ['GET  HTTP/1.1', undefined],
    ['-', undefined],
    ['GET /a\\\\b HTTP/1.1', '/a\\b'],
  ])('that ask %j', (request, target) => expect(line(TIME, request)?.target).toBe(target));

  it('say no referrer and no browser where there was none', () => {
    expect(line(TIME, 'GET / HTTP/1.1', '200 - "" "-"')).toMatchObject({
      referrer: undefined,
      agent: undefined,
      status: 200,
    });
    expect(line(TIME, 'GET / HTTP/1.1', '404 7 "https://x.example/" "A \\"b\\""')).toMatchObject({
      referrer: 'https://x.example/',
      agent: 'A "b"',
      status: 404,
    });
    expect(line(TIME, 'GET / HTTP/1.1', '20 7')).toBeUndefined();
    expect(readLogLine(`1.1.1.1 - - [${TIME}] "GET /${'a'.repeat(17_000)} HTTP/1.1" 200 1`)).toBeUndefined();
  });
});

describe('a search index', () => {
  const described = (...urls: string[]) =>
    readFeedTemplate(`<OpenSearchDescription>${urls.join('')}</OpenSearchDescription>`);
  it('is asked where its results are, from where it begins to count', () => {
    expect(
      described(
        '<Url rel="self" type="application/atom+xml" template="no"/><Url rel="x results" type="application/rss+xml" template="yes" pageOffset="0" indexOffset="-1"/>',
      ),
    ).toEqual({ template: 'yes', indexOffset: -1, pageOffset: 0 });
    expect(described('<Url type="application/atom+xml" template="yes" pageOffset="x"/>')).toEqual({
      template: 'yes',
      indexOffset: 1,
      pageOffset: 1,
    });
    expect(described('<Url type="text/html" template="no"/>')).toBeUndefined();
    expect(described('<Url type="application/atom+xml"/>')).toBeUndefined();
    expect(fillTemplate('?a={a}&b={b?}&c={c?}', { a: 'x y', c: '' })).toBe('?a=x%20y&b=&c=');
  });

  it('answers with what leads somewhere', () => {
    const atom = (inner: string) => readIndexPage(`\ufeff <feed>${inner}</feed>`);
    expect(
      atom(
        '<entry><link rel="self" href="no"/><link rel="alternate" href="/a"/><title>A &amp;amp; &lt;b&gt;b&lt;/b&gt;</title><summary>S</summary><content>C</content></entry>',
      )?.entries,
    ).toEqual([{ address: '/a', title: 'A & b', summary: 'S' }]);
    expect(atom('<totalResults>x</totalResults><link rel="next"/>')).toEqual({
      entries: [],
      total: undefined,
      next: undefined,
    });
    expect(
      readIndexPage(
        '<rss><channel><item><link> </link></item><item><link>/b</link></item><totalResults>7</totalResults></channel></rss>',
      ),
    ).toEqual({ entries: [{ address: '/b', title: '', summary: '' }], total: 7, next: undefined });
    expect(readIndexPage('<rss></rss>')).toBeUndefined();
  });
});
