/**
 * Archives that no program wrote: real ones, made by Python's and GNU's programs, spoiled by
 * cutting, doubling and changing their bytes. Each is read, or refused with words; what stands in it is read, or told as
 * unreadable; none takes more than it may.
 */
import { execFile } from 'node:child_process';
import { mkdir, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { DomainError } from '@fastigium/contracts/errors';
import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { IMPORT_LIMITS } from '../../config/config.ts';
import { openArchiveSource } from './archiveSource.ts';
import { EntryUnreadable } from './source.ts';

const run = promisify(execFile);
let folder: string;
const archives: Buffer[] = [];
const LIMITS = { ...IMPORT_LIMITS, totalBytes: 1_000_000, fileBytes: 500_000, files: 50 };

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'fastigium-archives-'));
  const site = join(folder, 'site');
  await mkdir(join(site, 'about'), { recursive: true });
  await writeFile(join(site, 'index.html'), '<title>Front</title><p>words and words</p>'.repeat(20));
  await writeFile(join(site, 'about/index.html'), '<title>About</title>');
  await writeFile(join(site, 'a name of some length and ö.txt'), 'x'.repeat(700));
  for (const [program, ...args] of [
    ['python3', '-m', 'zipfile', '-c', join(folder, 'a.zip'), join(site, 'index.html'), join(site, 'about')],
    ['tar', '-C', folder, '-cf', join(folder, 'a.tar'), 'site'],
    ['tar', '-C', folder, '--format=pax', '-cf', join(folder, 'b.tar'), 'site'],
    ['tar', '-C', folder, '-czf', join(folder, 'a.tgz'), 'site'],
  ] as const)
    await run(program, args);
  for (const name of ['a.zip', 'a.tar', 'b.tar', 'a.tgz']) archives.push(await readFile(join(folder, name)));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const spoiled = fc
  .record({
    of: fc.nat({ max: 3 }),
    changes: fc.array(fc.record({ at: fc.double({ min: 0, max: 1, noNaN: true }), to: fc.nat({ max: 255 }) }), {
      maxLength: 6,
    }),
    cut: fc.option(fc.double({ min: 0, max: 1, noNaN: true })),
    doubled: fc.option(fc.double({ min: 0, max: 1, noNaN: true })),
    // Where what a zip says of itself stands, and where a tar's headers do.
    near: fc.constantFrom('anywhere', 'the end', 'the beginning'),
  })
  .map(({ of, changes, cut, doubled, near }) => {
    let bytes = Buffer.from(archives[of] ?? []);
    const place = (at: number) => {
      const span = near === 'anywhere' ? bytes.length : Math.min(bytes.length, 200);
      return Math.floor(near === 'the end' ? bytes.length - 1 - at * span : at * (span - 1));
    };
    for (const { at, to } of changes) if (bytes.length > 0) bytes[Math.max(0, place(at))] = to;
    if (doubled !== null) bytes = Buffer.concat([bytes, bytes.subarray(Math.floor(doubled * bytes.length))]);
    if (cut !== null) bytes = bytes.subarray(0, Math.floor(cut * bytes.length));
    return bytes;
  });

it('is read or refused with words, by 1,200 spoiled archives', async () => {
  let read = 0;
  let refused = 0;
  await fc.assert(
    fc.asyncProperty(spoiled, async (bytes) => {
      const file = join(folder, 'spoiled');
      await writeFile(file, bytes);
      const { signal } = new AbortController();
      try {
        const source = await openArchiveSource(file, bytes.length, LIMITS, signal);
        try {
          for (const entry of source.entries) {
            const content = await entry.read(signal).catch((error: unknown) => {
              expect(error).toBeInstanceOf(EntryUnreadable);
              return Buffer.alloc(0);
            });
            expect(content.length).toBeLessThanOrEqual(LIMITS.fileBytes);
          }
          read += 1;
        } finally {
          source.close();
        }
      } catch (error) {
        expect(error).toBeInstanceOf(DomainError);
        refused += 1;
      } finally {
        await rm(`${file}.trimmed`, { force: true });
      }
    }),
    { numRuns: 1200 },
  );
  // Both come about, or this would prove nothing.
  expect(read).toBeGreaterThan(50);
  expect(refused).toBeGreaterThan(50);
  // Nothing was put outside.
  expect((await readdir(folder)).sort()).toEqual(['a.tar', 'a.tgz', 'a.zip', 'b.tar', 'site', 'spoiled']);
}, 120_000);
