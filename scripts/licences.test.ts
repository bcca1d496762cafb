/** What is used from the registry: its licences, by their names in the SPDX list, and its versions, each one exactly. */
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
// @ts-expect-error Plain JavaScript, because the build command uses it.
import { isAllowed, licences, licenceText } from './lib/licences.mjs';

const root = new URL('..', import.meta.url).pathname.replace(/\/$/, '');
const all = (licences as (root: string) => { name: string; version: string; licence: string }[])(root);

describe('licences', () => {
  it('are known and allowed, for everything that runs', () => {
    expect(all.length).toBeGreaterThan(200);
    expect(all.find(({ name }) => name === 'express')).toMatchObject({ licence: 'MIT' });
    expect(all.filter(({ licence }) => !(isAllowed as (text: string) => boolean)(licence))).toEqual([]);
    expect((licenceText as (root: string) => string)(root)).toContain('\nvue ');
  });

  // SPDX specification, annex D: OR gives a choice, AND binds by all.
  it.each([
    ['MIT', true],
    ['(BSD-3-Clause OR GPL-2.0)', true],
    ['Apache-2.0 AND LGPL-3.0-or-later', true],
    ['Apache-2.0 AND GPL-3.0-only', false],
    ['GPL-2.0', false],
    ['unknown', false],
    ['SEE LICENSE IN FILE', false],
  ])('%s: %s', (text, allowed) => expect((isAllowed as (text: string) => boolean)(text)).toBe(allowed));
});

describe('versions', () => {
  it.each([
    'package.json',
    ...['server', 'web', 'standins'].map((name) => `apps/${name}/package.json`),
    ...['core', 'contracts', 'wire'].map((name) => `packages/${name}/package.json`),
  ])('are said exactly: %s', (file) => {
    const { dependencies = {}, devDependencies = {} } = JSON.parse(readFileSync(`${root}/${file}`, 'utf8')) as {
      dependencies?: Record<string, string>;
      devDependencies?: Record<string, string>;
    };
    const loose = Object.entries({ ...dependencies, ...devDependencies }).filter(
      ([, version]) => !/^(npm:.*@)?\d+\.\d+\.\d+/.test(version),
    );
    expect(loose).toEqual([]);
  });

  it('are held to what was seen, by a hash of each', () => {
    const { packages } = JSON.parse(readFileSync(`${root}/package-lock.json`, 'utf8')) as {
      packages: Record<string, { link?: true; integrity?: string }>;
    };
    const unheld = Object.entries(packages).filter(
      ([path, { link, integrity }]) => path.includes('node_modules/') && !link && !/^sha512-/.test(integrity ?? ''),
    );
    expect(unheld.map(([path]) => path)).toEqual([]);
  });
});
