import fc from 'fast-check';
import mimeDb from 'mime-db';
import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { emptyDraft, foldDecisions } from '../site/index.ts';
import { compileAlone } from './testing.ts';
import {
  applyDelta,
  compileRules,
  deriveDelta,
  findDifferingShards,
  emptyManifest,
  findFileHeaders,
  findMediaType,
  parseShard,
  findPublishedPath,
  compareReleases,
  computeRoot,
  findShard,
  type ManifestEntry,
  type ShardHashes,
} from './index.ts';

const sha256 = (text: string) => createHash('sha256').update(text).digest('hex');
const entry = (path: string, content: string): ManifestEntry => ({
  path,
  hash: sha256(content),
  sizeBytes: content.length,
  headers: { 'content-type': 'text/plain' },
});

/** A store of shards, as a server keeps one. */
function store() {
  const texts = new Map<string, string>();
  const get = (hash: string) => texts.get(hash) ?? '';
  const apply = (before: ShardHashes, put: ManifestEntry[], remove: string[] = []) => {
    const changed = applyDelta(before, get, { put, remove }, sha256);
    for (const [hash, text] of changed.texts) texts.set(hash, text);
    return changed;
  };
  return {
    get,
    apply,
    build: (files: ReadonlyMap<string, string>) =>
      apply(
        emptyManifest,
        [...files].map(([path, content]) => entry(path, content)),
      ).shards,
  };
}

const tree = fc
  .dictionary(fc.string({ minLength: 1, maxLength: 6 }), fc.constantFrom('a', 'b', 'c', 'd'))
  .map((object) => new Map(Object.entries(object)));

describe('a manifest', () => {
  it('has one root for the same files, in whatever order they came', () => {
    fc.assert(
      fc.property(tree, (files) => {
        const { build } = store();
        expect(computeRoot(build(files), sha256)).toBe(computeRoot(build(new Map([...files].reverse())), sha256));
      }),
    );
  });

  it('comes to the same by changes as from nothing', () => {
    fc.assert(
      fc.property(tree, tree, (before, after) => {
        const { build, get, apply } = store();
        const [old, now] = [build(before), build(after)];
        const delta = deriveDelta(compareReleases(old, now, get));
        const changed = apply(old, [...delta.put], [...delta.remove]);
        expect(changed.shards).toEqual(now);
        expect(changed.filesMore).toBe(after.size - before.size);
      }),
    );
  });

  it('spreads paths over its shards, and touches only those that differ', () => {
    const { build } = store();
    const files = new Map(
      Array.from({ length: 10_000 }, (_, n) => [`section-${n % 100}/page-${n}/index.html`, 'x'] as [string, string]),
    );
    const sizes = new Array<number>(256).fill(0);
    for (const path of files.keys()) sizes[findShard(path)] = (sizes[findShard(path)] ?? 0) + 1;
    expect(Math.max(...sizes)).toBeLessThan(120);
    const changed = new Map(files).set('section-1/page-1/index.html', 'y');
    expect(findDifferingShards(build(files), build(changed))).toHaveLength(1);
  });

  it('reads a shard back as it was written', () => {
    const { apply, get } = store();
    const files = [entry('ä/b.html', 'x'), { ...entry('c', 'y'), headers: { 'x-b': '2', 'x-a': '1' } }];
    const { shards } = apply(emptyManifest, files);
    expect(
      shards
        .filter((hash) => hash !== '')
        .flatMap((hash) => parseShard(get(hash)))
        .sort((a, b) => (a.path < b.path ? -1 : 1)),
    ).toEqual([files[1], files[0]]);
  });
});

describe('the difference of two releases', () => {
  it('tells added, changed, removed, and moved without change', () => {
    const { build, get } = store();
    const before = build(
      new Map([
        ['same', '1'],
        ['changed', '2'],
        ['removed', '3'],
        ['from', '4'],
      ]),
    );
    const after = build(
      new Map([
        ['same', '1'],
        ['changed', 'two'],
        ['added', '5'],
        ['to', '4'],
      ]),
    );
    const difference = compareReleases(before, after, get);
    expect(difference.added.map(({ path }) => path)).toEqual(['added']);
    expect(difference.changed.map(({ after: { path } }) => path)).toEqual(['changed']);
    expect(difference.removed.map(({ path }) => path)).toEqual(['removed']);
    expect(difference.moved.map(({ before: b, after: a }) => `${b.path} ${a.path}`)).toEqual(['from to']);
  });
});

describe('compiling', () => {
  const home = foldDecisions([
    { seq: 1, decision: { kind: 'home', page: 'w', importedHome: { page: 'f', address: '/front/' } } },
  ]);
  const pages = new Map([
    ['w', { id: 'w', sourcePath: 'welcome/index.html' }],
    ['f', { id: 'f', sourcePath: 'index.html' }],
    ['v', { id: 'v', sourcePath: 'visit/index.html' }],
  ]);
  const bytes = new TextEncoder().encode('<title>W</title><a href="../visit/">');

  it('publishes the home page at the root, its relative links made right', () => {
    const compiled = compileAlone(home, { id: 'w', sourcePath: 'welcome/index.html' }, bytes);
    expect(compiled.path).toBe('index.html');
    expect(new TextDecoder().decode(compiled.bytes)).toBe('<title>W</title><a href="visit/">');
    expect(findPublishedPath(home, { id: 'f', sourcePath: 'index.html' })).toBe('front/index.html');
  });

  it('redirects the old address of a page that moved, but never "/"', () => {
    expect(compileRules(home, pages, '2026-01-01').rules).toEqual([{ from: '/welcome/', status: 301, to: '/' }]);
  });

  it('lands on pages wherever they are, and says which are not there', () => {
    const redirects = new Map([
      ['/a', { from: '/a', status: 301 as const, target: { kind: 'page' as const, page: 'w' } }],
      ['/b', { from: '/b', status: 302 as const, target: { kind: 'page' as const, page: 'gone' } }],
      ['/welcome/', { from: '/welcome/', status: 301 as const, target: { kind: 'page' as const, page: 'v' } }],
    ]);
    const { rules, withoutTarget } = compileRules({ ...home, redirects }, pages, '2026-01-01');
    expect(rules).toContainEqual({ from: '/a', status: 301, to: '/' });
    expect(rules).toContainEqual({ from: '/welcome/', status: 301, to: '/visit/' });
    expect(withoutTarget).toEqual(['/b']);
  });

  it('gives an untouched page its own bytes back', () => {
    expect(compileAlone(emptyDraft, { id: 'w', sourcePath: 'welcome/index.html' }, bytes).bytes).toBe(bytes);
  });
});

describe('media types', () => {
  // mime-db 1.54, whose entries name the IANA registry as their source where it has them.
  const registered = new Map<string, Set<string>>();
  for (const [type, { extensions = [], source }] of Object.entries(mimeDb)) {
    for (const extension of extensions)
      if (source === 'iana') registered.set(extension, (registered.get(extension) ?? new Set()).add(type));
  }
  const WEB =
    'html htm css js mjs json map svg png jpg jpeg gif webp avif ico woff woff2 ttf otf pdf txt xml rss atom webmanifest csv mp3 mp4 webm ogg wav zip gz doc docx xls xlsx ppt pptx odt ics vtt wasm epub'.split(
      ' ',
    );

  it.each(WEB)('.%s is what the registry says', (extension) => {
    const all = Object.entries(mimeDb)
      .filter(([, { extensions }]) => extensions?.includes(extension))
      .map(([type]) => type);
    const expected = registered.get(extension) ?? new Set(all);
    expect([...expected]).toContain(findMediaType(`folder.x/file.${extension.toUpperCase()}`));
  });

  it('names a charset for text, and for pages the one they were read in', () => {
    expect(findFileHeaders('a.html', 'windows-1252')['content-type']).toBe('text/html; charset=windows-1252');
    expect(findFileHeaders('a.html')['content-type']).toBe('text/html');
    expect(findFileHeaders('a.css')['content-type']).toBe('text/css; charset=utf-8');
    expect(findFileHeaders('a.png')['content-type']).toBe('image/png');
    expect(findFileHeaders('.htaccess')['content-type']).toBe('application/octet-stream');
    expect(findFileHeaders('LICENSE')['content-type']).toBe('application/octet-stream');
  });
});
