#!/usr/bin/env node
/**
 * Measures what the project promises, as ratios of two things timed in one run.
 *
 *   npm run bench                            all of them
 *   npm run bench -- import                  one: import, survey, heads, redirects, removals, republish, publishing, sending, firstload, ledgers, settling, faults (some ten minutes)
 *   npm run bench -- realsites               twelve acts on each real site, as a table (an hour); names behind it are the sites asked for
 *   npm run bench -- import --site FOLDER    the import of any folder of HTML
 *   npm run bench -- --json                  figures as JSON as well
 */
import { spawnSync } from 'node:child_process';
import { checkNode, needDebianPackages, needNpmPackages } from './lib/packages.mjs';
import { endWith } from './lib/say.mjs';

const root = new URL('..', import.meta.url).pathname.replace(/\/$/, '');
try {
  checkNode();
  needDebianPackages([
    'postgresql',
    'chromium',
    'rsync',
    'sqlite3-doc',
    'developers-reference',
    'debian-policy',
    'debian-reference-en',
    'postgresql-doc-15',
    'python3-doc',
    'openssh-server',
    'openssh-client',
    'nginx-light',
    'wrk',
  ]);
  needNpmPackages(root);
  const { buildAll } = await import('./lib/build.mjs');
  await buildAll(root);
  const { status } = spawnSync('npx', ['tsx', 'bench/run.ts', ...process.argv.slice(2)], {
    cwd: root,
    stdio: 'inherit',
  });
  process.exit(status ?? 1);
} catch (error) {
  endWith(error);
}
