#!/usr/bin/env node
/** The rules of style that know the types (.oxlintrc.json), over every file and the scripts of every component. */
import { spawnSync } from 'node:child_process';
import { writeVueScripts } from './lib/vueScripts.mjs';

const root = new URL('..', import.meta.url).pathname.replace(/\/$/, '');
const folders = ['packages', 'apps', 'demo', 'bench', 'e2e'];
// Git ignores what is written out, and so would the linter, were it not named file by file.
const args = ['oxlint', '--type-aware', '--format', 'unix', ...folders, ...writeVueScripts(root)];
const { status } = spawnSync('npx', args, { cwd: root, stdio: 'inherit' });
process.exit(status ?? 1);
