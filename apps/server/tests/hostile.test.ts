/** Bad input to the import: each a plain message or a note, nothing half-written left. */
import { execFile } from 'node:child_process';
import { linkSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { promisify } from 'node:util';
import { deflateRawSync } from 'node:zlib';
import type { Survey } from '@fastigium/contracts/api/imports';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openHouse, SMALL_SITE, zip, type House } from './harness.ts';
import { rawZip } from './rawZip.ts';

let house: House;
let count = 0;

beforeAll(async () => {
  house = await openHouse({
    env: {
      FASTIGIUM_IMPORT_MAX_FILES: '500',
      FASTIGIUM_IMPORT_MAX_BYTES: String(200 * 1024 * 1024),
      FASTIGIUM_UPLOAD_MAX_BYTES: String(64 * 1024 * 1024),
      FASTIGIUM_FILE_MAX_BYTES: String(128 * 1024 * 1024),
    },
  });
});
afterAll(() => house.stop());

async function bringIn(archive: Uint8Array) {
  const site = await house.owner.newSite(`Hostile ${(count += 1)}`);
  const job = await house.owner.bringIn(site, archive);
  const { body } = await house.owner.get<Survey & { error?: { code: string } }>(`/api/sites/${site}/survey`);
  return {
    site,
    job,
    survey: body,
    notes: (body.notes ?? []).map(({ message, path }) => `${message.code.replace('import-note.', '')} ${path}`),
  };
}

/** Rows that belong to no import that was applied, and contents nobody refers to. */
async function leftovers(): Promise<number> {
  const { n } = await house.server.deps.db.one<{ n: number }>(
    `select (select count(*) from source_file f join import i on i.id = f.import_id where i.state <> 'applied')
          + (select count(*) from file_reading f join import i on i.id = f.import_id where i.state <> 'applied')
          + (select count(*) from upload_piece)
          + (select count(*) from content c where not exists (select 1 from source_file f where f.hash = c.hash)) as n`,
  );
  return n;
}

describe('what cannot be brought in', () => {
  const bomb = () =>
    rawZip([
      { name: 'index.html', bytes: Buffer.from('<title>x</title>') },
      { name: 'bomb.bin', bytes: Buffer.alloc(100 * 1024 * 1024) },
    ]);
  it.each([
    ['a file that is no zip', () => Buffer.from('<html>not a zip'), 'archive-unreadable'],
    ['a zip cut in half', async () => (await zip(SMALL_SITE)).subarray(0, 400), 'archive-unreadable'],
    ['a tar cut in half', async () => (await packTar(['--gzip'])).subarray(0, 200), 'archive-unreadable'],
    [
      'a packing that is known and not read',
      () => Buffer.from([0x28, 0xb5, 0x2f, 0xfd, 0, 0, 0, 0]),
      'archive-unreadable',
    ],
    ['an empty zip', () => zip({}), 'archive-empty'],
    ['a zip of nothing but leftovers', () => zip({ '__MACOSX/._x': 'x', '.DS_Store': 'x' }), 'archive-empty'],
    ['a bomb by ratio', bomb, 'archive-expands'],
    [
      'a bomb by count',
      () => zip(Object.fromEntries(Array.from({ length: 600 }, (_, n) => [`${n}.html`, 'x']))),
      'archive-expands',
    ],
    [
      'a bomb in a tar',
      () =>
        packTar(['--gzip'], {
          'index.html': '<title>x</title>',
          'a.bin': Buffer.alloc(110 * 1024 * 1024),
          'b.bin': Buffer.alloc(110 * 1024 * 1024),
        }),
      'archive-expands',
    ],
    [
      'a bomb by size',
      () => rawZip([1, 2, 3].map((n) => ({ name: `${n}.bin`, bytes: Buffer.alloc(100 * 1024 * 1024, n) }))),
      'archive-expands',
    ],
  ] as const)('%s says so and leaves nothing', async (_, archive, code) => {
    const { job, survey } = await bringIn(await archive());
    expect(job).toMatchObject({ state: 'failed', error: { code } });
    expect(survey.error?.code).toBe('nothing-imported');
    expect(await leftovers()).toBe(0);
  });

  it('an upload of nothing, and one that is too large, are refused at the door', async () => {
    const site = await house.owner.newSite('Door');
    expect((await house.owner.post(`/api/sites/${site}/imports`, new Uint8Array(0))).status).toBe(422);
    expect((await house.owner.post(`/api/sites/${site}/imports`, Buffer.alloc(65 * 1024 * 1024))).status).toBe(413);
    expect(await leftovers()).toBe(0);
  });

  it('a lie about sizes is found while unpacking: the entry is left out', async () => {
    const honest = Buffer.from('<title>Long enough to be cut</title>'.repeat(50));
    const { job, notes } = await bringIn(
      rawZip([
        { name: 'index.html', bytes: Buffer.from('<title>x</title>') },
        { name: 'liar.html', bytes: honest, declaredBytes: 10 },
      ]),
    );
    expect(job.state).toBe('done');
    expect(notes).toEqual(['unreadable liar.html']);
  });
});

describe('what is brought in with a note', () => {
  it('paths that climb, are absolute, or hold what no path may', async () => {
    const { job, survey, notes } = await bringIn(
      rawZip([
        { name: 'index.html', bytes: Buffer.from('<title>x</title>') },
        ...[
          '../climb.html',
          'a/../../climb.html',
          '/etc/absolute.html',
          'C:\\windows\\drive.html',
          '..\\back.html',
          'nul\0byte.html',
          `${'long/'.repeat(300)}x.html`,
        ].map((name) => ({ name, bytes: Buffer.from(name) })),
        { name: 'folder\\inside.html', bytes: Buffer.from('<title>y</title>') },
        { name: './dot/./page.html', bytes: Buffer.from('<title>z</title>') },
      ]),
    );
    expect(job.state).toBe('done');
    expect(survey.pages.map(({ sourcePath }) => sourcePath)).toEqual([
      'dot/page.html',
      'folder/inside.html',
      'index.html',
    ]);
    expect(notes.filter((note) => note.startsWith('path-outside'))).toHaveLength(6);
    expect(notes.filter((note) => note.startsWith('path-too-long'))).toHaveLength(1);
  });

  it('links in the archive', async () => {
    const { notes, survey } = await bringIn(
      rawZip([
        { name: 'index.html', bytes: Buffer.from('x') },
        { name: 'passwords', bytes: Buffer.from('/etc/passwd'), mode: 0o120777 },
      ]),
    );
    expect(notes).toEqual(['symbolic-link passwords']);
    expect(survey.assets).toEqual([]);
  });

  it('doubled paths, paths that differ in case, and empty files', async () => {
    const { notes, survey } = await bringIn(
      rawZip([
        { name: 'index.html', bytes: Buffer.from('<title>first</title>') },
        { name: 'index.html', bytes: Buffer.from('<title>second</title>') },
        { name: 'About.html', bytes: Buffer.from('a') },
        { name: 'about.html', bytes: Buffer.from('b') },
        { name: 'empty.css', bytes: Buffer.alloc(0) },
      ]),
    );
    expect(notes).toEqual(['name-case about.html', 'empty empty.css', 'doubled-path index.html']);
    expect(survey.pages.find(({ address }) => address === '/')?.title).toBe('first');
  });

  it('names in no known encoding, kept as well as they can be', async () => {
    const { notes, survey } = await bringIn(
      rawZip([
        { name: 'index.html', bytes: Buffer.from('x') },
        {
          name: Buffer.from([0x63, 0x61, 0x66, 0x82, 0x2e, 0x68, 0x74, 0x6d, 0x6c]),
          bytes: Buffer.from('<title>c</title>'),
        },
      ]),
    );
    // 0x82 is é in code page 437.
    expect(survey.pages.map(({ address }) => address)).toEqual(['/caf%C3%A9.html', '/']);
    expect(notes).toEqual(['name-encoding caf\u00e9.html']);
  });

  it('a page of 30 MB is published unread', async () => {
    const page = Buffer.from(`<title>Huge</title>${'<p>word</p>'.repeat((30 * 1024 * 1024) / 11)}`);
    const { job, notes, survey } = await bringIn(await zip({ 'index.html': '<title>x</title>', 'huge.html': page }));
    expect(job.state).toBe('done');
    expect(notes).toEqual(['page-too-large huge.html']);
    expect(survey.assets.map(({ path, sizeBytes }) => [path, sizeBytes])).toEqual([['huge.html', page.length]]);
  });

  it('pages not in UTF-8, with NULs, faulty, nested 20,000 deep', async () => {
    const { job, notes, survey } = await bringIn(
      await zip({
        'index.html': '<title>x</title>',
        'guessed.html': Buffer.from('<title>caf\u00e9</title>', 'latin1'),
        'faulty.html': Buffer.from('<meta charset=utf-8><title>\u00ff\u00fe</title>', 'latin1'),
        'nul.html': '<title>a\0b</title>',
        'binary.html': Buffer.alloc(5000),
        'deep.html': `<title>deep</title>${'<div>'.repeat(20_000)}`,
      }),
    );
    expect(job.state).toBe('done');
    expect(notes).toEqual(['not-a-page binary.html', 'encoding-faulty faulty.html', 'encoding-guessed guessed.html']);
    expect(Object.fromEntries(survey.pages.map(({ sourcePath, title }) => [sourcePath, title]))).toEqual({
      'deep.html': 'deep',
      'faulty.html': '\ufffd\ufffd',
      'guessed.html': 'café',
      'index.html': 'x',
      'nul.html': 'a\ufffdb',
    });
  });
});

describe('archives of many programs', () => {
  // Go's archive/zip/testdata, entries as its reader_test.go expects them; see packages/core/testdata/README.md.
  const folder = new URL('../../../packages/core/testdata/zip/', import.meta.url);
  it.each([
    ['test.zip', ['gophercolor16x16.png', 'test.txt'], []],
    ['test-trailing-junk.zip', ['gophercolor16x16.png', 'test.txt'], []],
    ['test-prefix.zip', ['gophercolor16x16.png', 'test.txt'], []],
    ['symlink.zip', undefined, []],
    ['dd.zip', ['filename'], []],
    ['winxp.zip', ['dir/bar', 'hello', 'readonly'], []],
    ['unix.zip', ['dir/bar', 'hello', 'readonly'], []],
    ['go-with-datadesc-sig.zip', ['bar.txt', 'foo.txt'], []],
    ['crc32-not-streamed.zip', ['bar.txt', 'foo.txt'], []],
    ['zip64.zip', ['README'], []],
    ['zip64-2.zip', ['README'], []],
    ['utf8-7zip.zip', ['世界'], ['empty 世界']],
    ['utf8-infozip.zip', ['世界'], ['empty 世界']],
    ['utf8-osx.zip', ['世界'], ['empty 世界']],
    ['utf8-winrar.zip', ['世界'], ['empty 世界']],
    ['utf8-winzip.zip', ['世界'], ['empty 世界']],
    ['dupdir.zip', ['a/b/c'], ['file-and-folder a/b', 'empty c']],
    ['readme.notzip', undefined, []],
  ] as const)('%s', async (name, expected, notes) => {
    const { job, survey, notes: found } = await bringIn(readFileSync(new URL(name, folder)));
    if (expected === undefined) {
      expect(job.state).toBe('failed');
      return;
    }
    expect(job.state).toBe('done');
    // The folder that all files lie in is the site's own folder and no part of its paths.
    expect(survey.assets.map(({ path }) => path).sort()).toEqual(
      expected.length === 1 ? [expected[0]?.split('/').at(-1)] : [...expected].sort(),
    );
    expect(found.sort()).toEqual([...notes].sort());
  });

  it('inflates what deflate made, byte for byte', async () => {
    const content = Buffer.from(Array.from({ length: 100_000 }, (_, n) => (n * 7919) & 0xff));
    expect(deflateRawSync(content).length).toBeGreaterThan(0);
    const { survey } = await bringIn(
      rawZip([
        { name: 'index.html', bytes: Buffer.from('x') },
        { name: 'bytes.bin', bytes: content },
      ]),
    );
    const { hash } = await house.server.deps.db.one<{ hash: string }>(
      `select hash from source_file where path = 'bytes.bin'`,
    );
    const { bytes } = await house.server.deps.db.one<{ bytes: Buffer }>('select bytes from content where hash = $1', [
      hash,
    ]);
    expect(bytes.equals(content)).toBe(true);
    expect(survey.assets[0]?.sizeBytes).toBe(content.length);
  });
});

describe('archives of tar', () => {
  // Written by GNU tar itself, in each form it knows.
  it.each([['--format=v7'], ['--format=ustar'], ['--format=gnu'], ['--format=pax'], ['--gzip']])(
    '%s comes in as the zip of the same site does',
    async (form) => {
      const [fromTar, fromZip] = [await bringIn(await packTar([form])), await bringIn(await zip(SMALL_SITE))];
      expect(fromTar.job).toMatchObject({ state: 'done' });
      expect(await addressesAndHashes(fromTar.site)).toEqual(await addressesAndHashes(fromZip.site));
      expect(fromTar.notes).toEqual(fromZip.notes);
    },
  );

  it('a long name, letters of another tongue, a second name of a file and a link are each what they are', async () => {
    const long = `${'a-folder-of-some-length/'.repeat(8)}index.html`;
    const archive = await packTar(
      ['--format=gnu'],
      { 'index.html': '<title>x</title>', [long]: 'deep', 'caf\u00e9.html': 'au lait', 'one.txt': 'the same' },
      (folder) => {
        linkSync(join(folder, 'one.txt'), join(folder, 'two.txt'));
        symlinkSync('/etc/passwd', join(folder, 'passwords'));
      },
    );
    const { site, notes } = await bringIn(archive);
    const files = await addressesAndHashes(site);
    expect(files.map(({ path }) => path).sort()).toEqual(
      [long, 'caf\u00e9.html', 'index.html', 'one.txt', 'two.txt'].sort(),
    );
    expect(files.find(({ path }) => path === 'two.txt')?.hash).toBe(files.find(({ path }) => path === 'one.txt')?.hash);
    expect(notes).toContain('symbolic-link passwords');
  });

  it('of a file that was added anew the later one counts', async () => {
    const first = await packTar([], { 'index.html': '<title>first</title>' });
    const second = await packTar([], { 'index.html': '<title>second</title>' });
    // Two blocks of nothing end an archive (POSIX.1-2017, pax, ustar interchange format).
    const { site } = await bringIn(Buffer.concat([first.subarray(0, 3 * 512), second]));
    const alone = await bringIn(second);
    expect(await addressesAndHashes(site)).toEqual(await addressesAndHashes(alone.site));
  });
});

it('a zip whose directory says fewer files than it holds loses none', async () => {
  const archive = Buffer.from(await zip(SMALL_SITE));
  const end = archive.length - 22;
  for (const at of [8, 10]) archive.writeUInt16LE(1, end + at);
  const [told, whole] = [await bringIn(archive), await bringIn(await zip(SMALL_SITE))];
  expect(await addressesAndHashes(told.site)).toEqual(await addressesAndHashes(whole.site));
});

function addressesAndHashes(site: string): Promise<{ path: string; hash: string }[]> {
  return house.server.deps.db.many(
    `select f.path, f.hash from source_file f join import i on i.id = f.import_id where i.site_id = $1 order by f.path collate "C"`,
    [site],
  );
}

/** Packed from a folder by the system's own tar. */
async function packTar(
  options: readonly string[],
  files: Readonly<Record<string, string | Uint8Array>> = SMALL_SITE,
  arrange: (folder: string) => void = () => {},
): Promise<Buffer> {
  const folder = mkdtempSync(join(tmpdir(), 'fastigium-tar-test-'));
  try {
    for (const [path, text] of Object.entries(files)) {
      mkdirSync(dirname(join(folder, path)), { recursive: true });
      writeFileSync(join(folder, path), text);
    }
    arrange(folder);
    const { stdout } = await promisify(execFile)(
      'tar',
      ['--create', '--sort=name', ...options, '--directory', folder, '.'],
      { encoding: 'buffer', maxBuffer: 256 * 1024 * 1024 },
    );
    return stdout;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
