/**
 * What is written for servers, letter by letter, of one of each kind of thing a rule can hold. That the servers
 * themselves take it and answer as the core decides is held in apps/server/tests/peers/exports.test.ts, with these very
 * rules; here a letter that changes is seen. Sources: nginx documentation, ngx_http_map_module and
 * ngx_http_rewrite_module; Apache HTTP Server 2.4 documentation, mod_rewrite, RewriteMap and mod_alias.
 */
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import kept from '../../../testdata/redirects/rules.json' with { type: 'json' };
import type { Rule } from '../index.ts';
import { unsaid } from '../messages.ts';
import {
  writeApacheAliasRules,
  writeApacheMapRules,
  writeNginxRules,
  filterRulesOfHost,
  filterRulesOfSite,
  writeRuleTable,
  writeStubPages,
  type Exported,
} from './index.ts';

const RULES = kept as Rule[];
const FILES = new Set(['index.html', 'visit/index.html', 'about.html', 'img/a.png']);
const golden = (name: string) => readFileSync(new URL(`../../../testdata/redirects/${name}`, import.meta.url), 'utf8');
const told = ({ leftOut }: Exported) =>
  leftOut.map(
    ({ from, why, spellings }) => `${from} ${why.code.replace('unsaid.', '')}${spellings ? ' (spellings)' : ''}`,
  );

describe('files for servers', () => {
  it.each([
    ['nginx', writeNginxRules, ['redirects-maps.conf', 'redirects-server.conf']],
    ['Apache with a map', writeApacheMapRules, ['redirects.map', 'redirects.conf']],
    [
      'Apache without its configuration',
      (rules: readonly Rule[]) => writeApacheAliasRules(rules, FILES),
      ['redirects.htaccess'],
    ],
  ])('%s', (_, write, names) => {
    const { files } = write(RULES);
    expect(files.map(({ name }) => name)).toEqual(names);
    for (const { name, text } of files) expect(text).toBe(golden(name));
  });

  it('of no rules say so much as has to be said', () => {
    const [maps, server] = writeNginxRules([]).files;
    expect(maps?.text).toContain('map_hash_max_size 2048;\nmap_hash_bucket_size 256;');
    expect(server?.text.match(/if \(\$redirect/g)).toBeNull();
    const [map, conf] = writeApacheMapRules([]).files;
    expect(map?.text).toBe('');
    expect(conf?.text).not.toContain('redirects:f');
    expect(writeApacheAliasRules([], FILES).files[0]?.text.split('\n')).toHaveLength(3);
  });

  it('are as large as the tables of nginx need', () => {
    const many = Array.from({ length: 1000 }, (_, n): Rule => ({ from: `/${n}`, status: 301, to: '/x' }));
    expect(writeNginxRules(many).files[0]?.text).toContain('map_hash_max_size 4096;');
    const long: Rule = { from: `/${'a'.repeat(200)}`, status: 301, to: '/x' };
    expect(writeNginxRules([long]).files[0]?.text).toContain('map_hash_bucket_size 1024;');
    const longest: Rule = { from: '/a', status: 301, to: `/${'b'.repeat(300)}#c` };
    expect(writeNginxRules([longest]).files[0]?.text).toContain('map_hash_bucket_size 512;');
  });

  it('warn where every request goes through many lines', () => {
    const many = (count: number) =>
      writeApacheAliasRules(
        Array.from({ length: count }, (_, n): Rule => ({ from: `/${n}`, status: 301, to: '/x' })),
        FILES,
      ).files[0]?.text;
    expect(many(500)).not.toContain('goes through all of them');
    expect(many(501)).toContain('# 501 addresses: every request goes through all of them.');
  });
});

describe('what a form cannot say', () => {
  it('is nothing to a map, and nine groups to nginx', () => {
    expect(told(writeApacheMapRules(RULES))).toEqual([]);
    const parts = (count: number) => `/${Array.from({ length: count }, (_, n) => `:p${n}`).join('/')}`;
    const nine: Rule = { from: parts(9), status: 301, to: '/:p8', isPattern: true };
    const ten: Rule = { from: parts(10), status: 301, to: '/:p9', isPattern: true };
    const behind: Rule = { from: `${parts(10)}\\?x=:y`, status: 301, to: '/#:p9', isPattern: true };
    const first: Rule = { from: parts(10).replace('p0', 'q0'), status: 301, to: '/:q0', isPattern: true };
    const { leftOut, files } = writeNginxRules([nine, ten, behind, first]);
    expect(leftOut).toEqual([
      { from: behind.from, why: unsaid('nginx-groups', { most: 9 }) },
      { from: ten.from, why: unsaid('nginx-groups', { most: 9 }) },
    ]);
    expect(files[0]?.text.match(/\(\[\^\\\\\/\]\+\?\)/g)?.length).toBe(19);
  });

  it('by lines of mod_alias is told one by one', () => {
    expect(told(writeApacheAliasRules(RULES, FILES))).toEqual(JSON.parse(golden('alias-left-out.json')));
  });

  it.each<[Rule, string[]]>([
    [{ from: '/a', status: 301, to: '/b' }, []],
    [{ from: '/visit/', status: 301, to: '/b' }, ['/visit/ page-there']],
    [{ from: '/visit/?x=1', status: 301, to: '/b' }, []],
    [{ from: "/it's", status: 301, to: '/b' }, ["/it's alias-quotation"]],
    [{ from: "/a?it's", status: 301, to: '/b' }, ["/a?it's alias-quotation"]],
    [{ from: '/%E9', status: 301, to: '/b' }, ['/%E9 alias-encoded']],
    [{ from: '/a', status: 301, to: '/b?c' }, ['/a alias-query-into']],
    [{ from: '/a', status: 301, to: '/b?c', dropsQuery: true }, []],
    [{ from: '/a', status: 301, to: '/b#c' }, ['/a alias-query-into']],
    [{ from: '/a', status: 301, to: '/b#c', dropsQuery: true }, []],
    [{ from: '/a', status: 301, to: 'https://fell.example/%20' }, []],
    [{ from: '/a%5Cb', status: 301, to: '/c%25' }, ['/a%5Cb alias-encodes-again']],
    [{ from: '/A', status: 301, to: '/c%25', ignoreCase: true }, ['/A alias-encodes-again (spellings)']],
    [{ from: '/A', status: 301, to: '/c%20d', ignoreCase: true }, []],
    [{ from: '/a/:b', status: 301, to: '/c/:b', isPattern: true }, []],
    [{ from: '/a?b=:c', status: 301, to: '/c', isPattern: true }, ['/a?b=:c alias-query-unseen']],
    [{ from: '/a/:b', status: 301, to: '/c%20/:b', isPattern: true }, ['/a/:b alias-encodes-again']],
    [{ from: '/a/:b', status: 301, to: '/c/:b', isPattern: true, dropsQuery: true }, ['/a/:b alias-query-on']],
    [{ from: '/a/:b', status: 301, to: '/c?d=:b', isPattern: true }, ['/a/:b alias-query-on']],
    [{ from: '/a/:b', status: 410, isPattern: true }, []],
    [{ from: '/a/:b', status: 301, to: '/c#:b', isPattern: true }, ['/a/:b alias-query-behind']],
    [{ from: '/a/*', status: 301, to: '/:0', isPattern: true }, ['/a/* alias-two-slashes']],
    [{ from: '/a/:b', status: 301, to: '/:b', isPattern: true }, []],
    [{ from: '/a/*', status: 301, to: '/c/:0', isPattern: true }, []],
  ])('%j', (rule, expected) => expect(told(writeApacheAliasRules([rule], FILES))).toEqual(expected));

  it.each<[Rule, string[], string[]]>([
    [{ from: '/', status: 301, to: '/b' }, ['index.html'], []],
    [{ from: '/a/', status: 302, to: '/b' }, ['a/index.html'], []],
    [{ from: '/a', status: 307, to: '/b' }, ['a/index.html'], []],
    [{ from: '/a.htm', status: 308, to: '/b' }, ['a.htm'], []],
    [{ from: '/a.php', status: 301, to: '/b' }, [], ['/a.php page-other-type']],
    [{ from: '/a.verylongend', status: 301, to: '/b' }, ['a.verylongend/index.html'], []],
    [{ from: '/a?b', status: 301, to: '/b' }, [], ['/a?b page-query']],
    [{ from: '/a/%2E%2E/b', status: 301, to: '/b' }, [], ['/a/%2E%2E/b page-other-type']],
    [{ from: '/%E9', status: 301, to: '/b' }, [], ['/%E9 page-other-type']],
    [{ from: '/caf%C3%A9', status: 301, to: '/b' }, ['café/index.html'], []],
    [{ from: '/gone', status: 410 }, [], ['/gone page-gone']],
    [{ from: '/short', status: 200, to: '/a.html' }, [], []],
    [{ from: '/p/*', status: 301, to: '/:0', isPattern: true }, [], []],
  ])('as pages: %j', (rule, names, left) => {
    const made = writeStubPages([rule], [], new Set());
    expect(made.files.map(({ name }) => name)).toEqual(names);
    expect(told(made)).toEqual(left);
  });

  it('as pages where one is there already', () => {
    const there = (file: string) => told(writeStubPages([{ from: '/a', status: 301, to: '/b' }], [], new Set([file])));
    expect(there('a/index.html')).toEqual(['/a page-there']);
    expect(there('a')).toEqual(['/a page-there']);
    expect(there('b')).toEqual([]);
  });
});

it('a page that sends on says so for people and machines, whatever the address holds', () => {
  const [page] = writeStubPages(
    [],
    [
      { from: '/b', to: '/x?a=1&b="<c>"' },
      { from: '/a', to: '/y' },
    ],
    new Set(),
  ).files.slice(1);
  expect(page?.name).toBe('b/index.html');
  expect(page?.text).toBe(`<!doctype html>
<html lang="en">
<meta charset="utf-8">
<title>Moved</title>
<meta http-equiv="refresh" content="0; url=/x?a=1&amp;b=&quot;&lt;c&gt;&quot;">
<link rel="canonical" href="/x?a=1&amp;b=&quot;&lt;c&gt;&quot;">
<p>This page is at <a href="/x?a=1&amp;b=&quot;&lt;c&gt;&quot;">/x?a=1&amp;b=&quot;&lt;c&gt;&quot;</a> now.</p>
</html>
`);
});

it('a table has a row a redirect, with what is overlooked', () => {
  expect(
    writeRuleTable([
      { from: '/a', status: 301, to: '/b', dropsQuery: true, ignoreCase: true, anySlash: true },
      { from: '/p/*', status: 410, isPattern: true },
      { from: '/f', status: 200, to: '/f.html' },
    ]),
  ).toEqual([
    ['From', 'Status', 'To', 'Pattern', 'Query', 'Letter case', 'Last slash'],
    ['/a', '301', '/b', '', 'dropped', 'any', 'any'],
    ['/p/*', '410', '', 'yes', '', '', ''],
  ]);
});

it('rules of an old domain are as if it were a site of its own', () => {
  const rules: Rule[] = [
    { from: '//old.example/a', status: 301, to: '/b', dropsQuery: true },
    { from: '//old.example/c', status: 410 },
    { from: '//old.example/d', status: 302, to: 'https://fell.example/' },
    { from: '//other.example/a', status: 301, to: '/x' },
    { from: '/a', status: 301, to: '/y' },
  ];
  expect(filterRulesOfHost(rules, 'old.example', 'https://new.example')).toEqual([
    { from: '/a', status: 301, to: 'https://new.example/b', dropsQuery: true },
    { from: '/c', status: 410 },
    { from: '/d', status: 302, to: 'https://fell.example/' },
    { from: '/*', status: 301, to: 'https://new.example/:0', isPattern: true },
  ]);
  expect(filterRulesOfSite(rules).map(({ from }) => from)).toEqual(['/a']);
});
