/** Archives written here, read by GNU tar, by Python's tarfile and by the package tar-stream (POSIX.1-2017, `pax`: ustar and extended headers). */
import { execFileSync } from 'node:child_process';
import { mkdir, readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import fc from 'fast-check';
import { extract } from 'tar-stream';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { packUstar, type UstarEntry } from '../../src/adapters/host/ustar.ts';
import { temporaryFolder } from './processes.ts';

let folder: Awaited<ReturnType<typeof temporaryFolder>>;
beforeAll(async () => {
  folder = await temporaryFolder('ustar');
});
afterAll(() => folder.remove());

const LONG = `${'a long way down/'.repeat(12)}index.html`;
const ENTRIES: readonly UstarEntry[] = [
  { type: 'file', path: 'index.html', bytes: Buffer.from('<title>Home</title>') },
  { type: 'file', path: 'empty.txt', bytes: Buffer.alloc(0) },
  { type: 'file', path: 'one block.bin', bytes: Buffer.alloc(512, 7) },
  { type: 'file', path: 'caf\u00e9/\u4eca\u65e5.html', bytes: Buffer.from('letters beyond ASCII') },
  { type: 'file', path: LONG, bytes: Buffer.from('beyond a hundred bytes') },
  { type: 'link', path: 'second/name.html', to: 'index.html' },
  { type: 'link', path: `other/${LONG}`, to: LONG },
];

describe('an archive', () => {
  it('is unpacked by GNU tar, names and second names alike', async () => {
    const into = join(folder.path, 'unpacked');
    await mkdir(into);
    execFileSync('tar', ['-xmof', '-'], { cwd: into, input: packUstar(ENTRIES) });
    for (const { path, bytes } of ENTRIES)
      if (bytes) expect([path, await readFile(join(into, path))]).toEqual([path, Buffer.from(bytes)]);
    for (const { path, to } of ENTRIES)
      if (to !== undefined) expect((await stat(join(into, path))).ino).toBe((await stat(join(into, to))).ino);
    expect((await stat(join(into, 'index.html'))).mode & 0o777).toBe(0o644);
    expect(Date.now() - (await stat(join(into, 'index.html'))).mtimeMs).toBeLessThan(600_000);
  });

  it('is read by Python alike', () => {
    const script =
      'import io,json,sys,tarfile\nt=tarfile.open(fileobj=io.BytesIO(sys.stdin.buffer.read()))\nprint(json.dumps([[m.name,m.linkname,m.size,m.mode,m.isfile()] for m in t]))';
    const found = JSON.parse(
      execFileSync('/usr/bin/python3', ['-c', script], { input: packUstar(ENTRIES), encoding: 'utf8' }),
    ) as unknown;
    expect(found).toEqual(
      ENTRIES.map(({ type, path, to, bytes }) => [path, to ?? '', bytes?.length ?? 0, 0o644, type === 'file']),
    );
  });

  it('comes back out as what went in, whatever its names and bytes', async () => {
    const name = fc
      .string({ unit: 'grapheme', minLength: 1, maxLength: 180 })
      .filter((text) => !/[\0\n/]/.test(text) && text.isWellFormed());
    const entry: fc.Arbitrary<UstarEntry> = fc.oneof(
      fc.record({ type: fc.constant('file' as const), path: name, bytes: fc.uint8Array({ maxLength: 1600 }) }),
      fc.record({ type: fc.constant('link' as const), path: name, to: name }),
    );
    await fc.assert(
      fc.asyncProperty(fc.array(entry, { maxLength: 12 }), async (entries) => {
        const reading = extract();
        reading.end(packUstar(entries));
        const found: UstarEntry[] = [];
        for await (const one of reading) {
          const pieces: Buffer[] = [];
          for await (const piece of one) pieces.push(piece as Buffer);
          const { name: path, type, linkname } = one.header;
          found.push(
            type === 'link'
              ? { type, path, to: linkname ?? '' }
              : { type: 'file', path, bytes: new Uint8Array(Buffer.concat(pieces)) },
          );
        }
        expect(found).toEqual(entries);
      }),
    );
  });
});
