#!/usr/bin/env node
/**
 * Checks everything on a fresh machine or again: installs what is missing, then style, types, unit and
 * integration tests on a PostgreSQL of their own, a build, and the walk through the application in a
 * real browser. Ends with a line that counts: `N passed, N failed`.
 */
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { runContained } from './lib/contained.mjs';
import { checkNode, needDebianPackages, needNpmPackages } from './lib/packages.mjs';
import { endWith, say } from './lib/say.mjs';

const root = new URL('..', import.meta.url).pathname.replace(/\/$/, '');
const results = join(root, 'test-results');
const counts = { passed: 0, failed: 0 };
/** What failed is said once more at the end, where somebody who reads only the last lines finds it. */
const failures = [];
/** Of the core, folders that are held to what their tests find; the whole of it is measured in docs/benchmarks.md. */
const HELD = [
  'access',
  'address',
  'dns',
  'domain',
  'head',
  'html',
  'inspection',
  'listing',
  'reach',
  'report',
  'robots',
  'securityTxt',
  'site',
  'structured',
];

/** Of a step that failed, so many lines are said again. */
const LAST_LINES = 15;

function run(title, command, args, env = {}) {
  say(`\n== ${title}`);
  return new Promise((resolve) => {
    spawn(command, args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'], env: { ...process.env, ...env } })
      .on('error', () => resolve(false))
      .on('close', (status) => resolve(status === 0));
  });
}

/** A step that passes or fails as one; what it says is said at its end, since another one goes on beside it. */
function step(title, command, args, givesWay = false) {
  return new Promise((resolve) => {
    let out = '';
    const child = spawn(givesWay ? 'nice' : command, givesWay ? [command, ...args] : args, {
      cwd: root,
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (piece) => (out += piece));
    child.on('error', (error) => (out += error.message));
    child.on('close', (status) => {
      say(`\n== ${title}${status === 0 ? '' : ': failed'}`);
      if (out.trim() !== '') say(out.trimEnd());
      counts[status === 0 ? 'passed' : 'failed'] += 1;
      if (status !== 0) failures.push(`${title}:\n${out.trimEnd().split('\n').slice(-LAST_LINES).join('\n')}`);
      resolve(status === 0);
    });
  });
}

/** A runner that counts its own tests; one that fails without naming a failed test counts as one. */
async function suite(title, command, args, file, read, env) {
  rmSync(file, { force: true });
  const ok = await run(title, command, args, env);
  if (!ok) failures.push(`${title}: see above`);
  const found = existsSync(file) ? read(JSON.parse(readFileSync(file, 'utf8'))) : { passed: 0, failed: 0 };
  counts.passed += found.passed;
  counts.failed += found.failed + (!ok && found.failed === 0 ? 1 : 0) + (ok && found.passed === 0 ? 1 : 0);
}

// Servers that tests begin, and their workers, end with this run even where it is killed.
if (process.env.FASTIGIUM_CONTAINED === undefined) {
  const again = [process.execPath, import.meta.filename];
  process.exit(await runContained(again, { ...process.env, FASTIGIUM_CONTAINED: '1' }));
}

try {
  checkNode();
  needDebianPackages([
    'postgresql',
    'chromium',
    'curl',
    'developers-reference',
    'debian-policy',
    'linkchecker',
    'systemd',
    'haproxy',
    'libfaketime',
    'bind9',
    'bind9-utils',
    'bind9-dnsutils',
    'unbound',
    'pebble',
    'openssh-server',
    'openssh-client',
    'nginx-light',
    'apache2',
    'openssl',
    'libxml2-utils',
    'unzip',
    'python3',
  ]);
  needNpmPackages(root);
  mkdirSync(results, { recursive: true });
  // What only reads the code goes on beside the tests, and gives way to them.
  const read = (async () => {
    await step('Style', 'npx', ['eslint', '--cache', '--cache-location', 'node_modules/.cache/eslint/', '.'], true);
    await step('Style with types', 'node', ['scripts/promises.mjs'], true);
    // The same share of the changes each time, so that it says the same of the same tests.
    await step(
      'Changes that tests notice',
      'node',
      [
        'scripts/mutants.mjs',
        ...HELD.map((name) => `packages/core/src/${name}`),
        '--share',
        '0.04',
        '--least',
        '85',
        '--workers',
        '1',
      ],
      true,
    );
  })();
  await step('Format', 'npx', ['prettier', '--check', '--log-level', 'warn', '--cache', '**/*.{ts,vue,js,mjs,css}']);
  await step('Types', 'npm', ['run', '--silent', 'types']);
  const isBuilt = await step('Build', 'node', ['scripts/build.mjs']);
  const vitestFile = join(results, 'vitest.json');
  await suite(
    'Unit and integration',
    'npx',
    ['vitest', 'run', '--reporter=dot', '--reporter=json', `--outputFile.json=${vitestFile}`],
    vitestFile,
    ({ numPassedTests, numFailedTests, numFailedTestSuites }) => ({
      passed: numPassedTests,
      failed: numFailedTests || (numFailedTestSuites > 0 ? 1 : 0),
    }),
  );
  if (isBuilt) {
    const e2eFile = join(results, 'e2e.json');
    await suite(
      'In the browser',
      'npx',
      ['playwright', 'test', '-c', 'e2e/playwright.config.ts'],
      e2eFile,
      ({ stats }) => ({ passed: stats.expected + stats.flaky, failed: stats.unexpected }),
    );
  }
  await read;
  if (failures.length > 0) say(`\n== What failed\n${failures.join('\n\n')}`);
  say(`\n${counts.passed} passed, ${counts.failed} failed`);
  process.exit(counts.failed === 0 ? 0 : 1);
} catch (error) {
  endWith(error);
}
