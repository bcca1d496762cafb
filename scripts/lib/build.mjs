/** Builds what runs: the server and the stand-ins by esbuild, the web application by Vite; only when sources changed. */
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { licenceText } from './licences.mjs';
import { say, Stop } from './say.mjs';

const SOURCES = ['packages', 'apps', 'package-lock.json', 'scripts/lib/build.mjs', 'tsconfig.base.json'];
const SKIP = new Set(['node_modules', 'dist', 'dist-tests', 'testdata']);

function hashSources(root) {
  const digest = createHash('sha256');
  const walk = (path) => {
    let names;
    try {
      names = readdirSync(path);
    } catch {
      digest.update(path.slice(root.length)).update(readFileSync(path));
      return;
    }
    for (const name of names.sort()) if (!SKIP.has(name) && !name.endsWith('.test.ts')) walk(join(path, name));
  };
  for (const source of SOURCES) walk(join(root, source));
  return digest.digest('hex');
}

/** The package.json above a file. */
function packageAbove(file) {
  for (let folder = dirname(file); ; folder = dirname(folder))
    if (existsSync(join(folder, 'package.json'))) return JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8'));
}

/**
 * Workspace packages are TypeScript and go into the bundle; everything from the registry stays in node_modules. There it
 * is found from the application, and not from the package that imports it: so the application declares it too, in the
 * same version, or what runs is another one than was tested, or none.
 */
const registryPackagesStayOutside = (root, app) => ({
  name: 'registry-packages-stay-outside',
  setup({ initialOptions, onResolve, onEnd }) {
    initialOptions.metafile = true;
    const { dependencies } = packageAbove(join(root, app, 'src'));
    const meant = [];
    onResolve({ filter: /^[^./]/ }, ({ path, kind, importer }) => {
      if (kind === 'entry-point' || path.startsWith('@fastigium/')) return undefined;
      const [name] = /^(?:@[^/]+\/)?[^/]+/.exec(path);
      const version = packageAbove(importer).dependencies[name];
      if (!path.startsWith('node:')) meant.push({ path, name, version });
      return { path, external: true };
    });
    // Only of what is left in the bundle.
    onEnd(({ metafile }) => {
      const left = new Set(Object.values(metafile.outputs).flatMap(({ imports }) => imports.map(({ path }) => path)));
      const wrong = meant.filter(
        ({ path, name, version }) => left.has(path) && (version === undefined || dependencies[name] !== version),
      );
      const lines = new Set(wrong.map(({ name, version }) => `${name} ${version ?? '(declared nowhere)'}`));
      return { errors: [...lines].map((line) => ({ text: `${app} has to declare ${line} among its dependencies` })) };
    });
  },
});

const common = (root, app) => ({
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  sourcemap: true,
  logLevel: 'warning',
  absWorkingDir: root,
  plugins: [registryPackagesStayOutside(root, app)],
});

/** Takes a fraction of a second, so it is not asked whether anything changed. @returns the file to run */
export async function buildCommandLine(root) {
  const { build } = await import('esbuild');
  await build({
    ...common(root, 'apps/server'),
    entryPoints: { cli: 'apps/server/src/cli/index.ts' },
    outdir: 'apps/server/dist',
  });
  return join(root, 'apps/server/dist/cli.js');
}

/** The server alone, in a fraction of a second. @returns the file to run */
export async function buildServer(root, outdir = 'apps/server/dist') {
  const { build } = await import('esbuild');
  await build({
    ...common(root, 'apps/server'),
    entryPoints: { main: 'apps/server/src/main.ts', worker: 'apps/server/src/threads/worker.ts' },
    outdir,
  });
  return join(root, outdir, 'main.js');
}

/** @returns whether anything had to be built */
export async function buildAll(root) {
  const mark = join(root, 'apps/server/dist/.built');
  const sources = hashSources(root);
  if (existsSync(mark) && readFileSync(mark, 'utf8') === sources) return false;
  say('Building');
  const { build } = await import('esbuild');
  await buildServer(root);
  await build({
    ...common(root, 'apps/standins'),
    entryPoints: { main: 'apps/standins/src/main.ts' },
    outdir: 'apps/standins/dist',
  });
  const web = spawnSync('npx', ['vite', 'build', '--logLevel', 'warn'], {
    cwd: join(root, 'apps/web'),
    encoding: 'utf8',
  });
  if (web.status !== 0) throw new Stop(`The web application could not be built:\n${web.stdout}\n${web.stderr}`);
  writeFileSync(join(root, 'apps/web/dist/licences.txt'), licenceText(root));
  writeFileSync(mark, sources);
  return true;
}
