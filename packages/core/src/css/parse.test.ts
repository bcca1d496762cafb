import { spawnSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';

const core = new URL('../..', import.meta.url);

/** In a process of its own: what is never read to its end would hold the whole run up. */
function readInTurn(sheets: readonly string[]): { readonly ended: boolean; readonly selectors: unknown } {
  const program = `
    import { readSheet } from './src/css/index.ts';
    const read = ${JSON.stringify(sheets)}.map((sheet) => readSheet(sheet).map(({ selector }) => selector));
    process.stdout.write(JSON.stringify(read.at(-1)));`;
  const { status, stdout } = spawnSync(
    process.execPath,
    ['--import', 'tsx', '--input-type=module', '--eval', program],
    { cwd: core, encoding: 'utf8', timeout: 60_000 },
  );
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
