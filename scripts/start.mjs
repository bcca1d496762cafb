#!/usr/bin/env node
/**
 * Starts Fastigium on a fresh machine or again: installs what is missing, builds what changed,
 * starts PostgreSQL, the host stand-in and the application, and stops them all on Ctrl C.
 *
 *   npm start                      start, keeping all data
 *   npm start -- --fresh           begin anew: everything brought in or published before is deleted
 *   npm start -- --empty           without the demo; the first visit creates the owner
 *   npm start -- --data FOLDER     keep database and published sites there instead of in .fastigium
 *   npm start -- --port 4400       ports 4400 (application), 4401 (previews), 4402 (live sites), 4403 (host)
 */
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { checkNode, needDebianPackages, needNpmPackages } from './lib/packages.mjs';
import { endWith, say, Stop } from './lib/say.mjs';

const root = new URL('..', import.meta.url).pathname.replace(/\/$/, '');

function readOptions() {
  try {
    const { values } = parseArgs({
      options: { fresh: { type: 'boolean' }, empty: { type: 'boolean' }, port: { type: 'string', default: '4300' }, data: { type: 'string' } },
    });
    const port = Number(values.port);
    if (!Number.isInteger(port) || port < 1 || port > 65_532) throw new Stop(`--port takes a number from 1 to 65532, not “${values.port}”.`);
    return { ...values, port };
  } catch (error) {
    throw error instanceof Stop ? error : new Stop(`${error.message}\nThe options are --fresh, --empty, --port NUMBER and --data FOLDER.`);
  }
}

async function main() {
  const options = readOptions();
  checkNode();
  needDebianPackages(['postgresql']);
  needNpmPackages(root);
  const { dataFolder, startCluster } = await import('./lib/cluster.mjs');
  const { isFree, startProgram } = await import('./lib/processes.mjs');
  const { buildAll } = await import('./lib/build.mjs');

  const ports = { app: options.port, preview: options.port + 1, live: options.port + 2, control: options.port + 3 };
  for (const port of Object.values(ports)) {
    if (!(await isFree(port))) {
      throw new Stop(`Port ${port} is in use, perhaps by a Fastigium that is running already. Stop that with Ctrl C, or take other ports:  npm start -- --port ${options.port + 100}`);
    }
  }
  await buildAll(root);

  const folder = options.data === undefined ? dataFolder(root) : resolve(options.data);
  const hostFolder = join(folder, 'host');
  if (options.fresh) {
    const running = await startCluster({ folder }).catch((error) => {
      // A broken cluster is just what --fresh is for; one that is in use is not.
      if (error instanceof Stop && /running already/.test(error.message)) throw error;
    });
    await running?.stop();
    rmSync(folder, { recursive: true, force: true });
    say('Begun anew: all earlier data is deleted.');
  }
  const cluster = await startCluster({ folder });
  const programs = [];
  let stopping;
  const stopAll = () => (stopping ??= (async () => {
    for (const program of [...programs].reverse()) await program.stop();
    await cluster.stop();
  })());
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) {
    process.on(signal, () => {
      if (!stopping) say('\nStopping …');
      void stopAll().then(() => process.exit(0));
    });
  }

  try {
    mkdirSync(hostFolder, { recursive: true });
    const secrets = readSecrets(join(folder, 'secrets.json'));
    const start = async (...args) => {
      const program = startProgram(...args);
      programs.push(program);
      await program.ready;
    };
    await start('host stand-in', join(root, 'apps/standins/dist/host.js'), {
      FASTIGIUM_HOST_FOLDER: hostFolder, FASTIGIUM_HOST_TOKEN: secrets.hostToken,
      FASTIGIUM_HOST_CONTROL_PORT: String(ports.control), FASTIGIUM_HOST_PUBLIC_PORT: String(ports.live),
    });
    await start('application', join(root, 'apps/server/dist/main.js'), {
      FASTIGIUM_DATABASE_URL: cluster.url, FASTIGIUM_SECRET: secrets.secret, FASTIGIUM_HOST_TOKEN: secrets.hostToken,
      FASTIGIUM_PORT: String(ports.app), FASTIGIUM_PREVIEW_PORT: String(ports.preview),
      FASTIGIUM_HOST_PUBLIC_PORT: String(ports.live), FASTIGIUM_HOST_CONTROL_URL: `http://127.0.0.1:${ports.control}`,
      FASTIGIUM_WEB_FOLDER: join(root, 'apps/web/dist'), FASTIGIUM_LOG_LEVEL: process.env.FASTIGIUM_LOG_LEVEL ?? 'warn',
      ...(options.empty ? {} : { FASTIGIUM_DEMO_FOLDER: join(root, 'demo/lanternmoor') }),
    });
    say(`\nFastigium is ready:  http://localhost:${ports.app}/`);
    if (!options.empty) {
      const { owner } = JSON.parse(readFileSync(join(root, 'demo/lanternmoor/scenario.json'), 'utf8'));
      say(`Sign in to the demo with  ${owner.email}  and  ${owner.password}`);
    }
    say(`Live sites answer at  http://NAME.localhost:${ports.live}/  (a host stand-in; nothing leaves this machine)`);
    say('Ctrl C stops everything; the data stays.');
    const first = await Promise.race([...programs.map(({ name, ended }) => ended.then(() => name)), cluster.ended.then(() => 'database')]);
    if (!stopping) {
      await stopAll();
      throw new Stop(`The ${first} ended by itself; everything else was stopped. The data is kept. Run  npm start  again.`);
    }
    await stopAll();
  } catch (error) {
    await stopAll();
    throw error;
  }
}

/** Made once and kept beside the database, so that sessions and preview links outlive a restart. */
function readSecrets(file) {
  if (!existsSync(file)) {
    const fresh = { secret: randomBytes(32).toString('hex'), hostToken: randomBytes(24).toString('base64url') };
    writeFileSync(file, JSON.stringify(fresh), { mode: 0o600 });
  }
  return JSON.parse(readFileSync(file, 'utf8'));
}

try {
  await main();
} catch (error) {
  endWith(error);
}
