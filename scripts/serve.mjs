#!/usr/bin/env node
/**
 * Runs the built application for a team, by a file of settings or by the environment (docs/operations.md). It installs
 * nothing, builds nothing and starts no database: what it needs is there, or it says what is missing.
 *
 *   npm run serve                        settings from the environment
 *   npm run serve -- --config FILE       and from a file, NAME=value a line; the environment goes before it
 */
import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { parseArgs, parseEnv } from 'node:util';
import { checkNode } from './lib/packages.mjs';
import { endWith, Stop } from './lib/say.mjs';

const root = new URL('..', import.meta.url).pathname.replace(/\/$/, '');

function readOptions() {
  try {
    return parseArgs({ options: { config: { type: 'string' } } }).values;
  } catch (error) {
    throw new Stop(`${error.message}\nThe option is --config FILE.`);
  }
}

function readSettings(file) {
  const path = resolve(process.env.INIT_CWD ?? process.cwd(), file);
  try {
    return parseEnv(readFileSync(path, 'utf8'));
  } catch (error) {
    throw new Stop(`The settings in ${path} cannot be read: ${error.message}`);
  }
}

try {
  checkNode();
  const { config } = readOptions();
  const settings = config === undefined ? {} : readSettings(config);
  for (const [name, value] of Object.entries(settings)) process.env[name] ??= value;
  const program = join(root, 'apps/server/dist/main.js');
  const web = join(root, 'apps/web/dist');
  if (!existsSync(program) || !existsSync(join(web, 'index.html')))
    throw new Stop('It is not built yet. Run  npm ci  and  npm run build  here once, then this command again.');
  process.env.FASTIGIUM_WEB_FOLDER ??= web;
  await import(program);
} catch (error) {
  endWith(error);
}
