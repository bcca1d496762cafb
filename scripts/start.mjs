#!/usr/bin/env node
/**
 * Starts Fastigium on a fresh machine or again: installs what is missing, builds what changed,
 * starts PostgreSQL, the host stand-in and the application, and stops them all on Ctrl C.
 *
 *   npm start                      start, keeping all data
 *   npm start -- --fresh           begin anew: everything brought in or published before is deleted
 *   npm start -- --empty           without the demo; the first visit creates the owner
 *   npm start -- --data FOLDER     keep database and published sites there instead of in .fastigium
 *   npm start -- --port 4400       ports 4400 (application), 4401 (previews), 4402 (live sites) to 4408 (other stand-ins)
 */
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { homedir } from 'node:os';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { checkNode, needDebianPackages, needNpmPackages } from './lib/packages.mjs';
import { endWith, say, Stop } from './lib/say.mjs';

const root = new URL('..', import.meta.url).pathname.replace(/\/$/, '');

function readOptions() {
  try {
    const { values } = parseArgs({
      options: {
        fresh: { type: 'boolean' },
        empty: { type: 'boolean' },
        port: { type: 'string', default: '4300' },
        data: { type: 'string' },
      },
    });
    const port = Number(values.port);
    if (!Number.isInteger(port) || port < 1 || port > 65_527)
      throw new Stop(`--port takes a number from 1 to 65527, not “${values.port}”.`);
    return { ...values, port };
  } catch (error) {
    throw error instanceof Stop
      ? error
      : new Stop(`${error.message}\nThe options are --fresh, --empty, --port NUMBER and --data FOLDER.`);
  }
}

/** Application, previews, and seven of the stand-ins: live sites, host, TLS, registrar, certificates, DNS, panel. */
const PORTS = 9;

async function main() {
  const options = readOptions();
  checkNode();
  needDebianPackages(['postgresql', 'chromium']);
  needNpmPackages(root);
  const { dataFolder, startCluster } = await import('./lib/cluster.mjs');
  const { isFree, startProgram } = await import('./lib/processes.mjs');
  const { buildAll } = await import('./lib/build.mjs');

  const ports = { app: options.port, preview: options.port + 1, live: options.port + 2 };
  for (let port = ports.app; port < ports.app + PORTS; port += 1) {
    if (!(await isFree(port))) {
      throw new Stop(
        `Port ${port} is in use, perhaps by a Fastigium that is running already. Stop that with Ctrl C, or take other ports:  npm start -- --port ${options.port + 100}`,
      );
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
  const stopAll = () =>
    (stopping ??= (async () => {
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
      return program.ready;
    };
    const { environment } = await start('stand-ins', join(root, 'apps/standins/dist/main.js'), {
      FASTIGIUM_STANDINS_FOLDER: hostFolder,
      FASTIGIUM_HOST_TOKEN: secrets.hostToken,
      FASTIGIUM_STANDINS_PORT: String(ports.live),
      ...(options.empty
        ? {}
        : {
            FASTIGIUM_STANDINS_SEED: join(root, 'demo/lanternmoor/world.json'),
            FASTIGIUM_STANDINS_OLD_SITE: join(root, 'demo/lanternmoor/old-site.json'),
          }),
    });
    await start('application', join(root, 'apps/server/dist/main.js'), {
      // What is really outside stays a setting: anything set by hand goes before the stand-ins'.
      ...environment,
      ...Object.fromEntries(Object.entries(process.env).filter(([name]) => name in environment)),
      FASTIGIUM_DATABASE_URL: cluster.url,
      FASTIGIUM_SECRET: secrets.secret,
      FASTIGIUM_SEAL_KEY: secrets.sealKey,
      FASTIGIUM_PORT: String(ports.app),
      FASTIGIUM_PREVIEW_PORT: String(ports.preview),
      FASTIGIUM_WEB_FOLDER: join(root, 'apps/web/dist'),
      FASTIGIUM_CHROMIUM: '/usr/bin/chromium',
      // Whoever starts it here runs it: a site may go into their own folders, and into where web servers look.
      FASTIGIUM_HOST_FOLDERS: process.env.FASTIGIUM_HOST_FOLDERS ?? `${homedir()},/srv,/var/www`,
      FASTIGIUM_HOST_LOGS: process.env.FASTIGIUM_HOST_LOGS ?? '/var/log',
      FASTIGIUM_LOG_LEVEL: process.env.FASTIGIUM_LOG_LEVEL ?? 'warn',
      ...(options.empty ? {} : { FASTIGIUM_DEMO_FOLDER: join(root, 'demo/lanternmoor') }),
    });
    say(`\nFastigium is ready:  http://localhost:${ports.app}/`);
    if (!options.empty) {
      const { owner } = JSON.parse(readFileSync(join(root, 'demo/lanternmoor/scenario.json'), 'utf8'));
      say(`Sign in to the demo with  ${owner.email}  and  ${owner.password}`);
    }
    say(`Live sites answer at  http://NAME.localhost:${ports.live}/  (a host stand-in; nothing leaves this machine)`);
    say('Ctrl C stops everything; the data stays.');
    const first = await Promise.race([
      ...programs.map(({ name, ended }) => ended.then(() => name)),
      cluster.ended.then(() => 'database'),
    ]);
    if (!stopping) {
      await stopAll();
      throw new Stop(
        `The ${first} ended by itself; everything else was stopped. The data is kept. Run  npm start  again.`,
      );
    }
    await stopAll();
  } catch (error) {
    await stopAll();
    throw error;
  }
}

/** Made once and kept beside the database, not in it: sessions, links and sealed passwords outlive a restart. */
function readSecrets(file) {
  const known = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : {};
  const secrets = {
    secret: randomBytes(32).toString('hex'),
    hostToken: randomBytes(24).toString('base64url'),
    sealKey: randomBytes(32).toString('hex'),
    ...known,
  };
  if (Object.keys(known).length < Object.keys(secrets).length)
    writeFileSync(file, JSON.stringify(secrets), { mode: 0o600 });
  return secrets;
}

try {
  await main();
} catch (error) {
  endWith(error);
}
