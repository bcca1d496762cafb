/** All tests of a folder with the changed source, as one module that can be loaded again and again. */
import { readFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';

const shim = new URL('tests.mjs', import.meta.url).pathname;

/** @param texts changed text by path; every other file is taken as it stands */
export async function bundle(tests, texts, outfile) {
  await build({
    stdin: {
      contents: tests
        .map((path) => `inFile(${JSON.stringify(path)}, () => import(${JSON.stringify(path)}));`)
        .concat("import { inFile } from 'vitest';", 'export const loaded = whole();', "import { whole } from 'vitest';")
        .join('\n'),
      resolveDir: '/',
      loader: 'js',
    },
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    logLevel: 'error',
    plugins: [
      {
        name: 'changed',
        setup({ onLoad, onResolve }) {
          // One set of tests for all loads of the bundle.
          onResolve({ filter: /^vitest$/ }, () => ({ path: pathToFileURL(shim).href, external: true }));
          // Workspace packages are TypeScript, and JSON is no module yet; the rest of the registry runs as it is.
          onResolve({ filter: /^[^./]/ }, ({ path }) =>
            /^@fastigium\/|\.json$/.test(path) ? undefined : { path, external: true },
          );
          onLoad({ filter: /\.ts$/ }, ({ path }) => ({
            contents: placed(texts.get(path) ?? readFileSync(path, 'utf8'), path),
            loader: 'ts',
          }));
        },
      },
    ],
  });
}

/** As if it still stood where it stands. */
const placed = (text, path) =>
  text
    .replaceAll('import.meta.url', JSON.stringify(pathToFileURL(path).href))
    .replaceAll('import.meta.dirname', JSON.stringify(dirname(path)))
    .replaceAll('import.meta.filename', JSON.stringify(path));
