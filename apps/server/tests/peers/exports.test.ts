/**
 * Exported rules are loaded into a real nginx and a real Apache (Debian's packages) and asked of them: the same
 * status and the same Location as the core decides, for thousands of invented rules and addresses.
 */
import { parseAddress, formatAddress, splitAddress } from '@fastigium/core/address';
import { decide, indexRules, type Rule } from '@fastigium/core/redirects';
import {
  writeApacheAliasRules,
  writeApacheMapRules,
  writeNginxRules,
  type ExportedFile,
} from '@fastigium/core/redirects/exchange';
import { readApacheRules, readNginxRules, type RulesReading } from '@fastigium/core/redirects/exchange/read';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import rules from '../../../../packages/core/testdata/redirects/rules.json' with { type: 'json' };
import { temporaryFolder } from './processes.ts';
import { startApache, startNginx, writeFiles, type Asked, type WebServer } from './webServers.ts';

const FILES = [
  'index.html',
  'visit/index.html',
  'sky/tonight.html',
  'about.html',
  'café/index.html',
  'img/a.png',
  'news/2016/kept.html',
  'deep/folder/page.html',
];
const files = new Set(FILES);

/** One of each kind of thing a rule can hold; the core's own tests hold what is written of them letter by letter. */
const RULES = rules as Rule[];

const ASKED = [
  ...RULES.filter(({ isPattern }) => !isPattern).flatMap(({ from }) => [
    from,
    ...(from.includes('?') ? [] : [`${from}?v=1&w=%20`]),
  ]),
  '/',
  '/visit',
  '/visit?x=1',
  '/visit/?x=1',
  '/OLD',
  '/oLd/',
  '/img',
  '/img/',
  '/img/a.png',
  '/img/b.png',
  '/sky/tonight.html',
  '/nothing',
  '/nothing/',
  '/?p=13',
  '/?p=12&more=1',
  '/page.php?id=8',
  '/PAGE.php',
  '/loose/case',
  '/LOOSE/CASE?q=1',
  '/Loose/Case/',
  '/loose/slash',
  '/Loose/slash',
  '/loose/both/',
  '/LOOSE/BOTH',
  '/slash/encoded',
  '/quote/a',
  '/quote/a%22b',
  '/quote/',
  '/caf%C3%A9',
  '/caf%C3%A9/',
  '/news/2016/mercury.html',
  '/news/2016/mercury.html?v=2',
  '/news/16/mercury.html',
  '/news/2016/kept.html',
  '/files/',
  '/files/a/b.pdf',
  '/files',
  '/shop/12',
  '/SHOP/a%20b?x=1',
  '/archive.php?y=2016&m=05',
  '/archive.php?y=x&m=05',
  '/archive.php',
  '/wide/a/b?c=1',
  '/wide/',
  '/wide//elsewhere.example/x',
  '/one/old-two?x=1',
  '/move/x?y=1',
  '/move/x/y',
  '/old/more',
  '/deep/folder',
  '/deep/folder/',
];

/** As little chance as a test needs: the same every time. */
function* chance(seed: number): Generator<number> {
  let state = seed;
  for (;;) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    yield state / 2 ** 32;
  }
}

/** 2,000 more, of the letters that addresses are made of. */
function invented(): Rule[] {
  const numbers = chance(20261125);
  const next = () => numbers.next().value as number;
  const pick = <T>(all: readonly T[]): T => all[Math.floor(next() * all.length)] as T;
  const words = [
    'news',
    'News',
    'item',
    'archive',
    'caf%C3%A9',
    'a%20b',
    'x.y',
    'p-1',
    'stars_2',
    '~me',
    "it's",
    'a+b',
    'a=b',
    'a&b',
    'a,b',
    'a;b',
    'a:b',
    'a@b',
    '(a)',
    '!',
    '*',
    '$',
    '%25',
    '%23',
    '%3F',
    '%5B',
    '%7C',
    '%E6%98%9F',
  ];
  const path = (n: number) =>
    `/${Array.from({ length: 1 + Math.floor(next() * 3) }, () => pick(words)).join('/')}/${n}${pick(['', '/', '.html', '.php', '.htm'])}`;
  return Array.from({ length: 2000 }, (_, n): Rule => {
    const from = path(n) + pick(['', '', '', `?id=${n}`, `?q=a+b&c=%26&n=${n}`]);
    const to = pick([
      path(n + 5000),
      '/visit/',
      '/caf%C3%A9/',
      `/visit/#part-${n}`,
      `/x/?n=${n}`,
      `https://elsewhere.example${path(n)}`,
    ]);
    const status = pick([301, 301, 302, 307, 308, 410] as const);
    return {
      from,
      status,
      ...(status === 410 ? {} : { to }),
      ...(next() < 0.1 ? { dropsQuery: true as const } : {}),
      ...(next() < 0.1 && !from.includes('?') ? { ignoreCase: true as const } : {}),
      ...(next() < 0.1 && !from.includes('?') && from !== '/' ? { anySlash: true as const } : {}),
    };
  });
}

const MORE = invented();
// Patterns last, as they are compiled.
const ALL = [...RULES.filter(({ isPattern }) => !isPattern), ...MORE, ...RULES.filter(({ isPattern }) => isPattern)];
const ALL_ASKED = [
  ...new Set([
    ...ASKED,
    ...MORE.flatMap(({ from }, n) =>
      n % 4 === 0 && !from.includes('?')
        ? [from, `${from}?v=${n}`, from.toUpperCase().replace(/%[0-9A-F]{2}/g, (hex) => hex)]
        : [from],
    ),
  ]),
];

function decided(rules: readonly Rule[]): (address: string) => Asked {
  const index = indexRules(rules);
  return (address) => {
    const answer = decide(splitAddress(address), files, index);
    if (answer.kind === 'redirect') return { status: answer.status, location: answer.location };
    return { status: { file: 200, gone: 410, missing: 404 }[answer.kind], location: undefined };
  };
}

/** RFC 3986, section 6.2.2: the same address in another spelling is the same; an empty query is none. */
function normal({ status, location }: Asked): Asked {
  if (location === undefined) return { status, location };
  const hash = location.indexOf('#');
  const [before, fragment] = hash < 0 ? [location, ''] : [location.slice(0, hash), location.slice(hash)];
  const parsed = parseAddress(before);
  if (!parsed.ok) return { status, location };
  return {
    status,
    location: (parsed.host === undefined ? '' : `//${parsed.host}`) + formatAddress(parsed.address) + fragment,
  };
}

let folder: Awaited<ReturnType<typeof temporaryFolder>>;
const running: WebServer[] = [];

beforeAll(async () => {
  folder = await temporaryFolder('exports');
  await writeFiles(
    `${folder.path}/site`,
    FILES.map((name) => ({ name, text: name })),
  );
});
afterAll(async () => {
  for (const server of running) await server.stop();
  await folder.remove();
});

async function differences(server: WebServer, rules: readonly Rule[], asked: readonly string[]): Promise<string[]> {
  const core = decided(rules);
  const out: string[] = [];
  for (let from = 0; from < asked.length; from += 64) {
    out.push(
      ...(
        await Promise.all(
          asked.slice(from, from + 64).map(async (address) => {
            const [theirs, ours] = [normal(await server.ask(address)), normal(core(address))];
            return theirs.status === ours.status && theirs.location === ours.location
              ? []
              : [`${address}: ${theirs.status} ${theirs.location ?? ''}, not ${ours.status} ${ours.location ?? ''}`];
          }),
        )
      ).flat(),
    );
  }
  return out;
}

describe('exported rules answer as the core decides', () => {
  it('in nginx, with maps', async () => {
    const { files: exported, leftOut } = writeNginxRules(ALL);
    expect(leftOut).toEqual([]);
    const server = await startNginx(folder.path, exported);
    running.push(server);
    expect(await differences(server, ALL, ALL_ASKED)).toEqual([]);
  });

  it('in Apache, with a map', async () => {
    const { files: exported, leftOut } = writeApacheMapRules(ALL);
    expect(leftOut).toEqual([]);
    const server = await startApache(folder.path, 'apache-map', exported, false);
    running.push(server);
    expect(await differences(server, ALL, ALL_ASKED)).toEqual([]);
  });

  it('in Apache, as lines of mod_alias, but for those it says it left out', async () => {
    const { files: exported, leftOut } = writeApacheAliasRules(ALL, files);
    const out = new Set(leftOut.filter(({ spellings }) => !spellings).map(({ from }) => from));
    const exact = new Set(leftOut.filter(({ spellings }) => spellings).map(({ from }) => from.toLowerCase()));
    const kept = ALL.filter(({ from }) => !out.has(from)).map((rule): Rule => {
      const { ignoreCase: _ignoreCase, anySlash: _anySlash, ...plain } = rule;
      return exact.has(rule.from.toLowerCase()) ? plain : rule;
    });
    expect(kept.length).toBeGreaterThan(1000);
    const server = await startApache(folder.path, 'apache-alias', exported, true);
    running.push(server);
    // A folder without a page is Apache's to answer where nobody may configure it: it adds the slash.
    const folders = new Set(['/img', '/img/', '/deep/folder', '/deep/folder/']);
    expect(
      await differences(
        server,
        kept,
        ALL_ASKED.filter((address) => !out.has(address) && !folders.has(address)),
      ),
    ).toEqual([]);
  });
});

describe('whatever is asked for', () => {
  const HOSTS = ['//evil.example', '///evil.example', '/\\evil.example', '/\\/evil.example', '//evil.example\\'];
  const WAYS = [
    '',
    '/',
    '/..%2fvisit',
    '/%2e%2e/visit',
    '/..%5cvisit',
    '/..%2fdeep%2ffolder',
    '/../visit?a=1',
    '/x/..%2f..%2fvisit',
  ];
  const asked = [
    ...HOSTS.flatMap((host) => WAYS.map((way) => host + way)),
    ...['/wide', '/news/2016', '/img', '/files'].flatMap((branch) => HOSTS.map((host) => branch + host)),
    ...HOSTS.map((host) => `${host}/old-two`),
    '/visit%2f..%2f..%2f/evil.example',
    '/%2fevil.example/..%2fvisit',
    '/%5cevil.example/..%2fvisit',
  ];
  /** What might be taken for the beginning of a host, or for steps out of a folder, in any order; the same each time. */
  const PARTS = [
    ...[
      '/',
      '//',
      '\\',
      '%5c',
      '%5C',
      '%2f',
      '%2F',
      '..',
      '.',
      '%2e%2e',
      '%2E',
      '@',
      ':',
      ';',
      '?',
      '%3f',
      '%00',
      '%20',
      '%0d%0a',
    ],
    ...[
      'evil.example',
      'visit',
      'img',
      'deep/folder',
      'deep',
      'wide',
      'old-two',
      'news/2016',
      'files',
      'http:',
      '%C3%A9',
    ],
  ];
  const mixed = (count: number): string[] => {
    // Numerical Recipes' linear congruential generator (Press and others, 1992, section 7.1).
    let seed = 20_261_201;
    const next = (below: number) => {
      seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0;
      return Math.floor((seed / 2 ** 32) * below);
    };
    return Array.from(
      { length: count },
      () => `/${Array.from({ length: 1 + next(7) }, () => PARTS[next(PARTS.length)]).join('')}`,
    );
  };
  const known = new Set(['site.example', 'elsewhere.example', 'pictures.example']);

  it.each(['nginx, with maps', 'Apache, with a map', 'Apache, with lines'])(
    'nobody is led to a host that no rule names: %s',
    async (name) => {
      const server = running[['nginx, with maps', 'Apache, with a map', 'Apache, with lines'].indexOf(name)];
      if (!server) throw new Error('no such server');
      const led: string[] = [];
      let redirected = 0;
      const ask = async (address: string) => {
        const { status, location } = await server.ask(address);
        if (location === undefined) return;
        redirected += 1;
        // As a browser resolves it (URL standard, by Node.js).
        const { host } = new URL(location, 'http://site.example/');
        if (!known.has(host)) led.push(`${address}: ${status} ${location}`);
      };
      const all = [...asked, ...mixed(10_000)];
      for (let from = 0; from < all.length; from += 64) await Promise.all(all.slice(from, from + 64).map(ask));
      expect(led).toEqual([]);
      expect(redirected).toBeGreaterThan(50);
    },
  );
});

describe('a pattern that asks for a query', () => {
  // A live page, an old address below it, and the front page itself: none of them has a query, and `?` alone is none.
  const asking: Rule[] = [
    { from: '/visit/?*', isPattern: true, status: 301, to: '/about.html' },
    { from: '/list?*', isPattern: true, status: 302, to: '/sky/tonight.html' },
    { from: '/?page=:n', isPattern: true, status: 301, to: '/about.html?n=:n' },
    { from: '/?*', isPattern: true, status: 301, to: '/' },
  ];
  const asked = [
    '/',
    '/?',
    '/?x',
    '/?page=7',
    '/visit/',
    '/visit/?',
    '/visit/?a=1',
    '/visit?a=1',
    '/list',
    '/list?',
    '/list?b',
  ];

  it.each([
    ['nginx', () => startNginx(folder.path, writeNginxRules(asking).files)],
    ['Apache', () => startApache(folder.path, 'apache-asking', writeApacheMapRules(asking).files, false)],
  ])('leaves those without one alone: %s', async (_name, start) => {
    const server = await start();
    running.push(server);
    expect(await differences(server, asking, asked)).toEqual([]);
  });
});

describe('plain forms are read as the server they were written for understands them', () => {
  const asked = [
    '/service',
    '/service?x=1',
    '/one.html',
    '/branch/',
    '/branch/a/b.html',
    '/branch/a?x=1',
    '/news/2016/x.php',
    '/news/2016/x.php?q=1',
    '/news/16/x.php',
    '/gone.html',
    '/caf%C3%A9',
    '/case/Page',
    '/CASE/page',
    '/users/7',
    '/users/',
    '/nothing',
    '/dropped',
    '/dropped?x=1',
  ];
  const asRules = ({ rules }: RulesReading): Rule[] =>
    [...rules]
      .sort((a, b) => Number(a.isPattern) - Number(b.isPattern))
      .map(({ from, status, to, isPattern, ignoreCase, dropsQuery }) => ({
        from,
        status,
        ...(to === undefined ? {} : { to }),
        ...(isPattern ? { isPattern } : {}),
        ...(ignoreCase ? { ignoreCase } : {}),
        ...(dropsQuery ? { dropsQuery } : {}),
      }));

  it('Apache', async () => {
    const text = [
      'Redirect /service "https://elsewhere.example/service"',
      'RedirectPermanent /one.html /two/',
      'Redirect 301 /branch/ /limb/',
      'RedirectMatch 308 "^/news/(\\d{4})/(.*)\\.php$" "/journal/$1/$2/"',
      'Redirect gone /gone.html',
      'RedirectTemp "/café" /coffee/',
      'RewriteEngine On',
      'RewriteRule "^case/page$" /letter-case/ [NC,R=302,L]',
      'RewriteRule "^users/(.*)$" /people/$1 [R=307,L]',
      'RewriteRule ^dropped$ /kept? [R=301,L]',
    ].join('\n');
    const reading = readApacheRules(text);
    expect(reading.notRead).toEqual([]);
    const file: ExportedFile = { name: 'redirects.htaccess', text };
    const server = await startApache(folder.path, 'apache-plain', [file], true);
    running.push(server);
    expect(await differences(server, asRules(reading), asked)).toEqual([]);
  });

  it('nginx', async () => {
    const serverText = [
      'absolute_redirect off;',
      'location = /service { return 302 https://elsewhere.example/service$is_args$args; }',
      'location = /one.html { return 301 /two/$is_args$args; }',
      'location /branch/ { return 301 /limb/; }',
      'location ~ "^/news/(\\d{4})/" { return 308 /journal/$1/; }',
      'location = /gone.html { return 410; }',
      'location = /café { return 302 /coffee/$is_args$args; }',
      'location ~* ^/case/page$ { return 302 /letter-case/; }',
      'location = /dropped { return 301 /kept; }',
      'rewrite ^/users/(.*)$ /people/$1 redirect;',
    ].join('\n');
    const reading = readNginxRules(serverText.replace('absolute_redirect off;', ''));
    expect(reading.notRead).toEqual([]);
    const server = await startNginx(folder.path, [
      { name: 'redirects-maps.conf', text: '' },
      { name: 'redirects-server.conf', text: serverText },
    ]);
    running.push(server);
    expect(await differences(server, asRules(reading), asked)).toEqual([]);
  });
});
