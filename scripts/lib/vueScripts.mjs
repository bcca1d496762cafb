/**
 * The scripts of components as TypeScript files beside one another, line for line, for rules that know the types: a
 * linter that is given components themselves makes its program anew for each of them, which takes minutes.
 */
import { parse } from '@vue/compiler-sfc';
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';

const SHIM = `declare module '*.vue' {
  const component: import('vue').DefineComponent;
  export default component;
}
`;

/** @returns the files that are written */
export function writeVueScripts(root) {
  const source = join(root, 'apps/web/src');
  const folder = join(root, 'apps/web/lint');
  rmSync(folder, { recursive: true, force: true });
  const components = readdirSync(source, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && entry.name.endsWith('.vue'))
    .map((entry) => join(entry.parentPath, entry.name));
  const written = [];
  for (const path of components) {
    const { descriptor } = parse(readFileSync(path, 'utf8'), { filename: path });
    const blocks = [descriptor.script, descriptor.scriptSetup].filter((block) => block !== null);
    blocks.sort((one, other) => one.loc.start.line - other.loc.start.line);
    let text = '';
    for (const { content, loc } of blocks) text += '\n'.repeat(Math.max(0, loc.start.line - 1 - lines(text))) + content;
    const target = join(folder, `${relative(source, path)}.ts`);
    mkdirSync(dirname(target), { recursive: true });
    writeFileSync(target, `${text}\nexport {};\n`);
    written.push(target);
  }
  writeFileSync(join(folder, 'components.d.ts'), SHIM);
  writeFileSync(
    join(folder, 'tsconfig.json'),
    JSON.stringify({
      extends: '../tsconfig.json',
      compilerOptions: { rootDirs: ['../src', '.'], incremental: false, noEmit: true },
      include: ['.'],
    }),
  );
  return written;
}

const lines = (text) => text.split('\n').length - 1;
