#!/usr/bin/env node
/**
 * Small changes to the code under a folder, one at a time; each has to make a test beside it fail.
 *
 *     npm run mutants -- packages/core/src/reach
 *     npm run mutants -- packages/core/src
 *     npm run mutants -- packages/core/src/html --also packages/core/src
 *     npm run mutants -- packages/core/src --share 0.02 --least 85
 *
 * Prints the share that was found by folder, and every change that was not. With `--also`, what the tests beside the code
 * do not find is tried with those of another folder too; with `--share`, only so many of the changes are tried, the same
 * ones each time; with `--least`, a score below so many percent is an error.
 */
import { existsSync, mkdirSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { dirname, join, resolve, sep } from 'node:path';
import { pathToFileURL } from 'node:url';
import { parseArgs } from 'node:util';
import { bundle } from './lib/mutants/bundle.mjs';
import { instrument } from './lib/mutants/instrument.mjs';
import { tryChanges } from './lib/mutants/tryChanges.mjs';
import { endWith, say, Stop } from './lib/say.mjs';

const root = new URL('..', import.meta.url).pathname.replace(/\/$/, '');

const filesIn = (folder) =>
  readdirSync(folder, { recursive: true })
    .map((name) => join(folder, name))
    .filter((path) => /\.ts$/.test(path) && !/\.d\.ts$/.test(path) && !path.includes(`${sep}node_modules${sep}`))
    .sort();
const isTest = (path) => path.endsWith('.test.ts');

/** A folder without source of its own is told folder by folder, each by the tests in it. */
function parts(folder) {
  const names = readdirSync(folder).sort();
  if (names.some((name) => /\.ts$/.test(name) && !/\.(d|test)\.ts$/.test(name))) return [folder];
  return names.map((name) => join(folder, name)).filter((path) => statSync(path).isDirectory());
}

function packageOf(folder) {
  for (let at = folder; ; at = dirname(at)) if (existsSync(join(at, 'package.json'))) return at;
}

/** The same of the same changes each time, spread over all of them. */
const chosen = (changes, share) => changes.filter((_, at) => Math.floor((at + 1) * share) > Math.floor(at * share));

/** What the tests beside the code do not find is tried with those of the folder `also`, where there is one. */
async function folderScore(folder, { share, workers, also }) {
  const files = filesIn(folder);
  const { texts, mutants } = await instrument(files.filter((path) => !isTest(path)));
  const beside = files.filter(isTest);
  const others = also === undefined ? [] : filesIn(also).filter((path) => isTest(path) && !beside.includes(path));
  const work = join(packageOf(folder), 'node_modules', `.mutants-${process.pid}`);
  rmSync(work, { recursive: true, force: true });
  mkdirSync(work, { recursive: true });
  const tried = async (tests, changes, name) => {
    const file = join(work, name);
    await bundle(tests, texts, file);
    return tryChanges(pathToFileURL(file).href, changes, workers);
  };
  try {
    const results = await tried(beside, chosen(mutants, share), 'beside.mjs');
    const left = results.filter(({ found }) => !found).map(({ change }) => change);
    if (others.length === 0 || left.length === 0) return results;
    const farther = new Map((await tried(others, left, 'others.mjs')).map(({ change, found }) => [change, found]));
    return results.map(({ change, found }) => ({ change, found: found || farther.get(change) === true }));
  } finally {
    rmSync(work, { recursive: true, force: true });
  }
}

try {
  const { values, positionals } = parseArgs({
    allowPositionals: true,
    options: {
      share: { type: 'string', default: '1' },
      least: { type: 'string', default: '0' },
      workers: { type: 'string', default: String(availableParallelism()) },
      also: { type: 'string' },
      table: { type: 'string' },
    },
  });
  const folders = positionals.map((each) => resolve(root, each));
  if (folders.length === 0 || !folders.every((each) => existsSync(each) && each.startsWith(root + sep)))
    throw new Stop('Say which folders of the project to change, as in: npm run mutants -- packages/core/src/reach');
  const sum = { found: 0, counted: 0 };
  const rows = [];
  for (const part of folders.flatMap(parts)) {
    const results = await folderScore(part, {
      share: Number(values.share),
      workers: Number(values.workers),
      also: values.also === undefined ? undefined : resolve(root, values.also),
    });
    const found = results.filter((each) => each.found).length;
    sum.found += found;
    sum.counted += results.length;
    for (const { change } of results.filter((each) => !each.found))
      say(
        `${change.fileName.slice(root.length + 1)}:${change.location.start.line}:${change.location.start.column + 1}  ${change.mutatorName}: ${change.replacement.replace(/\s+/g, ' ').slice(0, 100)}`,
      );
    rows.push([part.slice(root.length + 1), found, results.length]);
  }
  const line = ([name, found, counted]) =>
    `${name}: ${found} of ${counted} changes found, ${((100 * found) / Math.max(1, counted)).toFixed(1)} %`;
  say('');
  for (const row of rows) say(line(row));
  if (rows.length > 1) say(line(['all', sum.found, sum.counted]));
  if (values.table !== undefined) writeFileSync(values.table, `${rows.map((row) => row.join('\t')).join('\n')}\n`);
  if (100 * sum.found < Number(values.least) * sum.counted)
    throw new Stop(`Less than ${values.least} % were found. What stands above needs a test that fails with it.`);
} catch (error) {
  endWith(error);
}
