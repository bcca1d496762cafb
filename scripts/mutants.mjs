#!/usr/bin/env node
/**
 * Small changes to the code under a path, one at a time; each has to make a test beside it fail.
 *
 *     npm run mutants -- packages/core/src/reach
 *
 * Prints the share that was found and every change that was not. Words alone (`StringLiteral`) are left out: codes and
 * patterns are held by types and by the tests of the catalogues.
 */
import { existsSync, mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve, sep } from 'node:path';
import { endWith, say, Stop } from './lib/say.mjs';

const root = new URL('..', import.meta.url).pathname.replace(/\/$/, '');
const sandbox = join(root, '.mutants');

try {
  const [path] = process.argv.slice(2);
  const whole = resolve(root, path ?? '');
  if (path === undefined || !existsSync(whole) || !whole.startsWith(root + sep))
    throw new Stop('Say which folder of the project to change, as in: npm run mutants -- packages/core/src/reach');
  const at = whole.slice(root.length + 1);
  const { Stryker } = await import('@stryker-mutator/core');
  rmSync(sandbox, { recursive: true, force: true });
  mkdirSync(sandbox);
  // The tests beside the code, and no others: what only a far test notices is not held where it stands.
  const config = join(sandbox, 'vitest.config.ts');
  writeFileSync(config, `export default { test: { include: ['${at}/**/*.test.ts'], testTimeout: 30_000 } };\n`);
  const results = await new Stryker({
    testRunner: 'vitest',
    vitest: { configFile: config, related: false },
    plugins: ['@stryker-mutator/vitest-runner'],
    mutate: [`${at}/**/*.ts`, `!${at}/**/*.test.ts`],
    mutator: { excludedMutations: ['StringLiteral'] },
    ignorePatterns: ['/apps', '/bench', '/corpus', '/demo', '/docs', '/e2e', '/.fastigium', '/test-results'],
    coverageAnalysis: 'perTest',
    reporters: ['clear-text'],
    clearTextReporter: { allowColor: false, logTests: false, reportTests: false, reportScoreTable: true },
    concurrency: 2,
    tempDirName: join(sandbox, 'copies'),
  }).runMutationTest();
  const found = results.filter(({ status }) => status === 'Killed' || status === 'Timeout').length;
  const counted = results.filter(({ status }) => status !== 'Ignored' && status !== 'CompileError').length;
  say(`\n${at}: ${found} of ${counted} changes found, ${((100 * found) / Math.max(1, counted)).toFixed(1)} %`);
} catch (error) {
  endWith(error);
} finally {
  rmSync(sandbox, { recursive: true, force: true });
}
