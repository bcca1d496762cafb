/**
 * Headers as configuration of two servers. Sources: nginx documentation, ngx_http_core_module (types, default_type,
 * error_page) and ngx_http_headers_module (add_header); Apache HTTP Server 2.4 documentation, mod_mime (AddType), core
 * (ForceType, ErrorDocument, LocationMatch) and mod_headers. The servers themselves read them in
 * apps/server/tests/peers/takeAlong.test.ts.
 */
import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import {
  writeApacheHeaders,
  applyDelta,
  deriveDelta,
  findDifferingShards,
  emptyManifest,
  findFileHeaders,
  isTextType,
  findMediaType,
  writeNginxHeaders,
  parseShard,
  compareReleases,
  serialiseShard,
  SHARD_COUNT,
  findShard,
  findTouchedShards,
  type ManifestEntry,
} from './index.ts';

const file = (path: string, type?: string, more: Record<string, string> = {}): ManifestEntry => ({
  path,
  hash: 'h',
  sizeBytes: 1,
  headers: { ...(type === undefined ? {} : { 'content-type': type }), ...more },
});
const FILES = [
  file('index.html', 'text/html; charset=utf-8', { 'cache-control': 'no-cache' }),
  file('a/b.HTML', 'text/html; charset=utf-8', { 'cache-control': 'no-cache' }),
  file('old/index.htm', 'text/html; charset=windows-1252', { 'cache-control': 'max-age=1' }),
  file('old/index.html', 'text/html; charset=windows-1252'),
  file('a.css', 'text/css; charset=utf-8'),
  file('LICENSE', 'text/plain; charset=utf-8'),
  file('README'),
  file('.hidden', 'text/plain'),
  file('odd.x"y', 'text/x'),
  file('deep/404.html', 'text/html; charset=utf-8'),
  file('404.html', 'text/html; charset=utf-8'),
];

describe('headers for nginx', () => {
  const written = () => writeNginxHeaders(FILES).split('\n');

  it('tell the type of each ending that most of its files have', () => {
    expect(written().slice(0, 6)).toEqual([
      '# Headers: include this file inside server { }, before redirects-server.conf.',
      'types {',
      '  "text/css; charset=utf-8" css;',
      '  "text/html; charset=utf-8" html;',
      '  "text/html; charset=windows-1252" htm;',
      '}',
    ]);
    expect(written()[6]).toBe('default_type application/octet-stream;');
  });

  it('tell files that are otherwise one by one, a folder’s page by its folder too', () => {
    const located = written().filter((line) => line.startsWith('location') && !line.includes('internal'));
    expect(located).toEqual([
      'location = "/old/index.html" { types { } default_type "text/html; charset=windows-1252"; try_files "/old/index.html" =404; }',
      'location = "/old/" { types { } default_type "text/html; charset=windows-1252"; try_files "/old/index.html" =404; }',
      'location = "/LICENSE" { types { } default_type "text/plain; charset=utf-8"; try_files "/LICENSE" =404; }',
      'location = "/.hidden" { types { } default_type "text/plain"; try_files "/.hidden" =404; }',
      'location = "/odd.x\\"y" { types { } default_type "text/x"; try_files "/odd.x\\"y" =404; }',
    ]);
  });

  it('tell how long files may be kept, and what is shown where nothing is', () => {
    expect(written().filter((line) => line.startsWith('add_header'))).toEqual(['add_header Cache-Control "no-cache";']);
    expect(written().slice(-4)).toEqual([
      'error_page 404 "/404.html";',
      'error_page 410 "/404.html";',
      'location = "/404.html" { internal; auth_basic off; }',
      '',
    ]);
  });

  it('of endings of one type are one line, in their order', () => {
    const both = writeNginxHeaders([
      file('b.jpg', 'image/jpeg'),
      file('a.jpeg', 'image/jpeg'),
      file('c.gif', 'image/gif'),
    ]);
    expect(both).toContain('types {\n  "image/gif" gif;\n  "image/jpeg" jpeg jpg;\n}');
    expect(both).not.toContain('error_page');
    expect(both).not.toContain('add_header');
  });

  it('take of two types as frequent the first by name', () => {
    expect(writeNginxHeaders([file('a.x', 'b/b'), file('b.x', 'a/a')])).toContain('"a/a" x;');
    expect(writeNginxHeaders([file('a.x', 'b/b'), file('b.x', 'a/a'), file('c.x', 'b/b')])).toContain('"b/b" x;');
  });
});

describe('headers for Apache', () => {
  const written = () => writeApacheHeaders(FILES);

  it('tell the type of each ending, and none for files without one', () => {
    expect(written().split('\n').slice(0, 9)).toEqual([
      '# Headers: include this file inside <VirtualHost>. It needs mod_mime and mod_headers.',
      'AddDefaultCharset Off',
      '# A file without an ending has no type otherwise.',
      '<FilesMatch "^[^.]+$">',
      '  ForceType application/octet-stream',
      '</FilesMatch>',
      'AddType "text/css; charset=utf-8" .css',
      'AddType "text/html; charset=windows-1252" .htm',
      'AddType "text/html; charset=utf-8" .html',
    ]);
  });

  it('tell files that are otherwise one by one, letters that mean something escaped', () => {
    expect(written()).toContain(
      '<LocationMatch "^(?:/old/index\\\\.html|/old/)$">\n  ForceType "text/html; charset=windows-1252"\n</LocationMatch>',
    );
    expect(written()).toContain('<LocationMatch "^(?:/odd\\\\.x\\"y)$">\n  ForceType "text/x"\n</LocationMatch>');
    expect(written()).not.toContain('README');
  });

  it('tell how long files may be kept, and what is shown where nothing is', () => {
    expect(written().endsWith('ErrorDocument 404 "/404.html"\nErrorDocument 410 "/404.html"\n')).toBe(true);
    expect(written().match(/Header set Cache-Control .*/g)).toEqual(['Header set Cache-Control "no-cache"']);
    expect(writeApacheHeaders([])).not.toMatch(/ErrorDocument|Header set/);
  });
});

describe('types', () => {
  it.each([
    ['text/plain', true],
    ['application/json', true],
    ['image/svg+xml', true],
    ['application/yaml', true],
    ['application/javascript', true],
    ['application/manifest+json', true],
    ['application/pdf', false],
    ['xtext/plain', false],
    ['application/jsonx', false],
  ])('%s is text: %s', (type, isText) => expect(isTextType(type)).toBe(isText));

  it.each([
    ['a.html', 'windows-1252', 'text/html; charset=windows-1252'],
    ['a.html', undefined, 'text/html'],
    ['a.css', undefined, 'text/css; charset=utf-8'],
    ['a.css', 'windows-1252', 'text/css; charset=utf-8'],
    ['a.json', undefined, 'application/json'],
    ['a.png', undefined, 'image/png'],
    ['a.b/c', undefined, 'application/octet-stream'],
    ['a', undefined, 'application/octet-stream'],
    ['css', undefined, 'application/octet-stream'],
    ['x/.css', undefined, 'application/octet-stream'],
  ])('%s read as %s is %s', (path, encoding, type) => {
    expect(findFileHeaders(path, encoding)).toEqual({ 'content-type': type, 'cache-control': 'no-cache' });
  });

  it('go by the name of the file, not of its folder', () => expect(findMediaType('a.html/b.css')).toBe('text/css'));
});

describe('shards', () => {
  const sha256 = (text: string) => createHash('sha256').update(text).digest('hex');
  const entry = (path: string, hash: string, sizeBytes = 1, headers: Record<string, string> = {}): ManifestEntry => ({
    path,
    hash,
    sizeBytes,
    headers,
  });

  // FNV-1a test vectors of draft-eastlake-fnv, appendix C: "" is 811c9dc5, "a" e40c292c, "foobar" bf9cf968; folded here.
  it.each([
    ['', 0x81 ^ 0x1c ^ 0x9d ^ 0xc5],
    ['a', 0xe4 ^ 0x0c ^ 0x29 ^ 0x2c],
    ['foobar', 0xbf ^ 0x9c ^ 0xf9 ^ 0x68],
  ])('%j is in shard %d', (path, shard) => expect(findShard(path)).toBe(shard));

  it('have a line an entry, by path, headers by name', () => {
    const text = serialiseShard([entry('b', 'h2', 2), entry('a', 'h1', 1, { z: '1', b: '2' })]);
    expect(text).toBe('["a","h1",1,{"b":"2","z":"1"}]\n["b","h2",2,{}]\n');
    expect(parseShard(text).map(({ path }) => path)).toEqual(['a', 'b']);
    expect(parseShard('')).toEqual([]);
  });

  it('that a change touches are told in order, each once', () => {
    const [a, foobar] = [findShard('a'), findShard('foobar')];
    expect(findTouchedShards({ put: [entry('foobar', 'h'), entry('a', 'h')], remove: ['a', 'foobar'] })).toEqual(
      [a, foobar].sort((x, y) => x - y),
    );
    expect(emptyManifest).toHaveLength(SHARD_COUNT);
  });

  it('count files and bytes more and fewer', () => {
    const texts = new Map<string, string>();
    const apply = (before: readonly string[], put: ManifestEntry[], remove: string[] = []) => {
      const changed = applyDelta(before, (hash) => texts.get(hash) ?? '', { put, remove }, sha256);
      for (const [hash, text] of changed.texts) texts.set(hash, text);
      return changed;
    };
    const first = apply(emptyManifest, [entry('a', '1', 10), entry('b', '2', 20)]);
    expect([first.filesMore, first.bytesMore, first.texts.size]).toEqual([2, 30, 2]);
    const second = apply(first.shards, [entry('a', '3', 4)], ['b', 'never']);
    expect([second.filesMore, second.bytesMore]).toEqual([-1, -26]);
    expect(second.shards[findShard('b')]).toBe('');
    expect([...second.texts.values()]).toEqual(['["a","3",4,{}]\n']);
    expect(findDifferingShards(first.shards, second.shards)).toEqual(
      [findShard('a'), findShard('b')].sort((x, y) => x - y),
    );
    expect(findDifferingShards(first.shards, first.shards)).toEqual([]);
  });

  it('differ in headers too, and moves are told in the order of paths', () => {
    const texts = new Map<string, string>();
    const build = (...entries: ManifestEntry[]) => {
      const { shards, texts: more } = applyDelta(emptyManifest, () => '', { put: entries, remove: [] }, sha256);
      for (const [hash, text] of more) texts.set(hash, text);
      return shards;
    };
    const before = build(
      entry('c', '1'),
      entry('a', '1'),
      entry('h', '2', 1, { x: '1' }),
      entry('i', '3', 1, { x: '1' }),
      entry('r', '9'),
      entry('q', '9'),
    );
    const after = build(
      entry('y', '1'),
      entry('x', '1'),
      entry('z', '1'),
      entry('h', '2', 1, { x: '1' }),
      entry('i', '3', 1, {}),
      entry('w', '8'),
      entry('v', '8'),
    );
    const difference = compareReleases(before, after, (hash) => texts.get(hash) ?? '');
    expect(difference.moved.map(({ before: from, after: to }) => `${from.path} ${to.path}`)).toEqual(['a x', 'c y']);
    expect(difference.added.map(({ path }) => path)).toEqual(['v', 'w', 'z']);
    expect(difference.removed.map(({ path }) => path)).toEqual(['q', 'r']);
    expect(difference.changed.map(({ before: was, after: is }) => [was.headers, is.headers])).toEqual([
      [{ x: '1' }, {}],
    ]);
    expect(deriveDelta(difference)).toEqual({
      put: ['v', 'w', 'z', 'i', 'x', 'y'].map((path) => expect.objectContaining({ path }) as unknown),
      remove: ['q', 'r', 'a', 'c'],
    });
  });

  it('that are changed come in the order of paths', () => {
    const texts = new Map<string, string>();
    const build = (...entries: ManifestEntry[]) => {
      const { shards, texts: more } = applyDelta(emptyManifest, () => '', { put: entries, remove: [] }, sha256);
      for (const [hash, text] of more) texts.set(hash, text);
      return shards;
    };
    const names = ['n', 'd', 'k', 'b', 'z', 'a'];
    const difference = compareReleases(
      build(...names.map((name) => entry(name, '1'))),
      build(...names.map((name) => entry(name, '2'))),
      (hash) => texts.get(hash) ?? '',
    );
    expect(difference.changed.map(({ after: { path } }) => path)).toEqual([...names].sort());
  });
});
