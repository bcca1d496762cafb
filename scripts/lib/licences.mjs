/**
 * The licences of everything from the registry that runs (not of what only builds and tests): read from the packages
 * themselves, and refused where one is not among those known to allow it.
 */
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Stop } from './say.mjs';

/** By their names in the SPDX licence list. Those of the second line ask that what they cover stays exchangeable, which packages are. */
const ALLOWED = new Set([
  ...[
    'MIT',
    'MIT-0',
    'ISC',
    '0BSD',
    'BSD-2-Clause',
    'BSD-3-Clause',
    'Apache-2.0',
    'BlueOak-1.0.0',
    'CC0-1.0',
    'Unlicense',
    'OFL-1.1',
  ],
  ...['MPL-2.0', 'LGPL-3.0-or-later'],
]);

/** Packages whose licence stands in a file alone, read by hand; with the version it was read in. */
const READ_BY_HAND = {
  ssh2: 'MIT',
  buildcheck: 'MIT',
  'cpu-features': 'MIT',
  // A database under ODbL-1.0, which asks to be named; its code is MIT.
  'world-countries': 'MIT',
};

/** Whether an SPDX expression allows use: one of several with OR, all of those with AND. */
export function isAllowed(expression) {
  const text = expression.replace(/[()]/g, ' ').trim();
  if (/\sOR\s/.test(text)) return text.split(/\sOR\s/).some(isAllowed);
  return text.split(/\sAND\s/).every((each) => ALLOWED.has(each.trim()));
}

/** @returns name, version and licence of each, by name */
export function licences(root) {
  const { packages } = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8'));
  return Object.entries(packages)
    .filter(([path, entry]) => path.includes('node_modules/') && !entry.dev && !entry.link)
    .map(([path, { version, license, optional }]) => {
      const name = path.slice(path.lastIndexOf('node_modules/') + 'node_modules/'.length);
      const own = join(root, path, 'package.json');
      const said = existsSync(own) ? JSON.parse(readFileSync(own, 'utf8')).license : undefined;
      return {
        name,
        version,
        licence: license ?? said ?? READ_BY_HAND[name] ?? 'unknown',
        optional: optional ?? false,
      };
    })
    .sort((one, other) => (one.name < other.name ? -1 : one.name > other.name ? 1 : 0));
}

/** As a text that goes with the application. Throws a Stop that names what may not be used. */
export function licenceText(root) {
  const all = licences(root);
  const refused = all.filter(({ licence }) => !isAllowed(licence));
  if (refused.length > 0)
    throw new Stop(
      `These packages have a licence nobody has allowed:\n${refused.map(({ name, version, licence }) => `  ${name} ${version}: ${licence}`).join('\n')}\nUse others, or read the licence and add it to scripts/lib/licences.mjs.`,
    );
  const lines = [...new Set(all.map(({ name, version, licence }) => `${name} ${version}  ${licence}`))];
  return `What Fastigium is made of, from the registry, with its licences. Each package holds its own text.\n\n${lines.join('\n')}\n`;
}
