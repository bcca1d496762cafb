import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { buildSync } from 'esbuild';
import { afterAll, describe, expect, it } from 'vitest';

// Where the packages it imports are found.
const cache = join(import.meta.dirname, '../../../../node_modules/.cache');
mkdirSync(cache, { recursive: true });
const folder = mkdtempSync(join(cache, 'sheets-'));
const program = join(folder, 'read.mjs');
buildSync({
  stdin: {
    contents: `
      import { readSheet } from './index.ts';
      const read = JSON.parse(process.argv[2]).map((sheet) => readSheet(sheet).map(({ selector }) => selector));
      process.stdout.write(JSON.stringify(read.at(-1)));`,
    resolveDir: import.meta.dirname,
  },
  outfile: program,
  bundle: true,
  packages: 'external',
  platform: 'node',
  format: 'esm',
});
afterAll(() => rmSync(folder, { recursive: true }));

/** In a process of its own: what is never read to its end would hold the whole run up. */
function readInTurn(sheets: readonly string[]): { readonly ended: boolean; readonly selectors: unknown } {
  const { status, stdout } = spawnSync(process.execPath, [program, JSON.stringify(sheets)], {
    encoding: 'utf8',
    timeout: 60_000,
  });
  return { ended: status === 0, selectors: status === 0 ? JSON.parse(stdout) : undefined };
}

describe('a sheet', () => {
  // Found by the fuzz run of hostile.test.ts; blocks that are closed and were never opened: CSS Syntax 3, section 5.4.
  it.each([
    ['a(b)}}:root{--a:(', []],
    ['t(.b){c:url("a b.png")}}:root{--a:calc(1px + (2px*', []],
    ['a{color:red}}b{color:blue}', ['a']],
  ])('%s is read to its end, and the same whatever was read before it', (sheet, least) => {
    const alone = readInTurn([sheet]);
    expect(alone.ended).toBe(true);
    expect(alone.selectors).toEqual(expect.arrayContaining(least));
    for (const before of ['{'.repeat(90), `${'a{b:('.repeat(45)}`, '['.repeat(95)])
      expect(readInTurn([before, sheet]), before.slice(0, 9)).toEqual(alone);
  });
});
