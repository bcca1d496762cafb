import { mkdtemp, rm, symlink } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { isWithin } from './places.ts';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'fastigium-places-'));
  await symlink('/proc/self', join(folder, 'link'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

describe('a place for a site', () => {
  it.each([
    ['/srv/www/site', ['/'], true],
    ['/processes/site', ['/'], true],
    ['/srv/www/site', ['/srv/www'], true],
    ['/srv/www-other/site', ['/srv/www'], false],
    ['/srv/www/../other', ['/srv/www'], false],
    ['/proc/self/site', ['/'], false],
    ['/proc', ['/proc'], false],
    ['/sys/site', ['/'], false],
    ['/dev/shm/site', ['/'], false],
    ['/srv/www/site', [], false],
  ])('%s, where %j is open: %s', async (path, open, is) => expect(await isWithin(path, open)).toBe(is));

  it('is none where a link leads to one that is none', async () => {
    expect(await isWithin(join(folder, 'site'), [folder])).toBe(true);
    expect(await isWithin(join(folder, 'link/site'), ['/'])).toBe(false);
  });
});
