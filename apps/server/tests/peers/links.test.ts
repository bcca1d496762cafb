/** Dead links of real sites, against Debian's linkchecker: the same set of broken targets. */
import { spawnSync } from 'node:child_process';
import { chmodSync, cpSync, existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { surveySite } from '@fastigium/core/checks';
import { readSite } from '../../src/cli/readSite.ts';
import { run } from '../../src/cli/main.ts';

const folders: string[] = [];
afterAll(() => {
  for (const folder of folders) rmSync(folder, { recursive: true, force: true });
});

/** A copy without links in the file system, some files of it gone, as a careless export would have it. */
function damaged(source: string, gone: readonly string[]): string {
  const folder = mkdtempSync(join(tmpdir(), 'fastigium-links-'));
  folders.push(folder);
  cpSync(source, folder, { recursive: true, dereference: true });
  for (const path of gone) rmSync(join(folder, path), { recursive: true, force: true });
  // linkchecker gives up root's rights and reads as nobody.
  spawnSync('chmod', ['-R', 'a+rX', folder]);
  chmodSync(folder, 0o755);
  return folder;
}

/** Paths inside the folder that linkchecker finds broken; it walks from the front page and looks at no other host. */
function byLinkchecker(folder: string, front: string): Set<string> {
  const { stdout } = spawnSync(
    'linkchecker',
    ['--no-status', '--no-robots', '-o', 'csv', '--ignore-url', '^(mailto|https?|ftp):', join(folder, front)],
    { encoding: 'utf8', maxBuffer: 1 << 26 },
  );
  const lines = stdout.split('\n').filter((line) => !line.startsWith('#'));
  const columns = lines[0]?.split(';') ?? [];
  const at = columns.indexOf('url');
  expect(at).toBeGreaterThan(0);
  return new Set(
    lines
      .slice(1)
      .filter((line) => line.includes(';'))
      .flatMap((line) => {
        const url = line.split(';')[at] ?? '';
        return url.startsWith('file://') ? [decodeURIComponent(new URL(url).pathname).slice(folder.length)] : [];
      }),
  );
}

describe.each([
  ['/usr/share/developers-reference', 'index.html', ['tools.html', '_static/basic.css', 'l10n.html']],
  [
    '/usr/share/doc/debian-policy/policy.html',
    'index.html',
    ['ch-controlfields.html', '_static/pygments.css', 'ap-pkg-diversions.html'],
  ],
] as const)('%s, some files of it gone', (source, front, gone) => {
  it.runIf(existsSync(source))(
    'has the broken targets that linkchecker names',
    async () => {
      const folder = damaged(
        source,
        gone.filter((path) => existsSync(join(source, path))),
      );
      const theirs = byLinkchecker(folder, front);
      expect(theirs.size).toBeGreaterThan(1);
      const { files } = await readSite(folder);
      const ours = new Set(
        surveySite(files)
          .filter(({ code }) => code === 'link-dead')
          .map(({ resolved }) => decodeURIComponent(resolved ?? '').split('?')[0] ?? ''),
      );
      // A folder is a page to linkchecker, which lists it; a web server sends it on or answers nothing.
      const isFolder = (path: string) => existsSync(join(folder, path)) && readdirSync(folder).length > 0;
      expect([...theirs].filter((path) => !ours.has(path))).toEqual([]);
      expect([...ours].filter((path) => !theirs.has(path) && !isFolder(path))).toEqual([]);
    },
    120_000,
  );
});

describe('the command line', () => {
  const said = async (...args: string[]) => {
    let [out, problem] = ['', ''];
    const code = await run(args, {
      out: (text) => {
        out += text;
      },
      problem: (text) => {
        problem += text;
      },
    });
    return { code, out, problem };
  };

  it('ends with 0, 1 or 2, and says why', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'fastigium-cli-'));
    folders.push(folder);
    expect(await said('survey', join(folder, 'none'))).toMatchObject({
      code: 2,
      problem: expect.stringContaining('There is nothing at'),
    });
    expect(await said('survey', folder)).toMatchObject({ code: 2, problem: expect.stringContaining('no file in it') });
    expect(await said('publish', folder)).toMatchObject({
      code: 2,
      problem: expect.stringContaining('npm run fastigium -- survey'),
    });
    writeFileSync(join(folder, 'index.html'), '<title>x</title><a href="gone.html">x</a>');
    expect((await said('survey', folder)).code).toBe(0);
    writeFileSync(join(folder, '.env'), 'SECRET=1');
    const { code, out } = await said('survey', folder, '--json');
    expect(code).toBe(1);
    const report = JSON.parse(out) as {
      files: number;
      snags: { code: string; file: string; position: unknown; target?: unknown }[];
    };
    expect(report.files).toBe(2);
    expect(report.snags.find((snag) => snag.code === 'link-dead')).toMatchObject({
      file: 'index.html',
      position: { line: 1, column: 20 },
      target: { written: 'gone.html', resolved: '/gone.html' },
    });
    expect(report.snags.find((snag) => snag.code === 'file-secret')).toMatchObject({ file: '.env', position: null });
    writeFileSync(join(folder, 'broken.zip'), 'no zip at all');
    expect((await said('survey', join(folder, 'broken.zip'))).code).toBe(2);
  });
});
