#!/usr/bin/env node
/** The rules of style that know the types (eslint.typed.config.js), over every file and the scripts of every component. */
import { spawnSync } from 'node:child_process';
import { writeVueScripts } from './lib/vueScripts.mjs';

const root = new URL('..', import.meta.url).pathname.replace(/\/$/, '');
writeVueScripts(root);
const { status } = spawnSync('npx', ['eslint', '-c', 'eslint.typed.config.js', '**/*.ts'], {
  cwd: root,
  stdio: 'inherit',
});
process.exit(status ?? 1);
