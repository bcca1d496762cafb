#!/usr/bin/env node
/** The command line, built first where its sources changed:  npm run fastigium -- survey FOLDER_OR_ZIP, or reseal */
import { spawnSync } from 'node:child_process';
import { resolve } from 'node:path';
import { checkNode, needNpmPackages } from './lib/packages.mjs';
import { endWith } from './lib/say.mjs';

const root = new URL('..', import.meta.url).pathname.replace(/\/$/, '');
try {
  checkNode();
  needNpmPackages(root, 'quiet');
  const { buildCommandLine } = await import('./lib/build.mjs');
  const file = await buildCommandLine(root);
  // npm runs scripts in the project's folder; what was named is meant from where it was typed.
  const from = process.env.INIT_CWD ?? process.cwd();
  const args = process.argv
    .slice(2)
    .map((arg, index, all) =>
      (index === 1 && !arg.startsWith('-') && all[0] !== 'reset') || all[index - 1] === '--config'
        ? resolve(from, arg)
        : arg,
    );
  process.exit(spawnSync(process.execPath, [file, ...args], { stdio: 'inherit' }).status ?? 2);
} catch (error) {
  endWith(error);
}
