/** All stand-ins as one process. It tells whoever started it what the application has to know of them. */
import { readFileSync } from 'node:fs';
import { z } from 'zod';
import { NO_OLD_SITE, oldSiteSeed } from './oldSite/seed.ts';
import { worldSeed } from './registrar/registry.ts';
import { NO_PORTS, startWorld } from './world/world.ts';

const port = z.coerce.number().int().min(0).max(65_535);
const env = z
  .object({
    FASTIGIUM_STANDINS_FOLDER: z.string().min(1),
    FASTIGIUM_HOST_TOKEN: z.string().min(16),
    /** Ports in a row, from this one on; 0 takes any that are free: live sites, host control, live sites by TLS, registrar, certificate authority, DNS, panel. */
    FASTIGIUM_STANDINS_PORT: port.default(4302),
    /** A JSON file of names that are held already; only read the first time. */
    FASTIGIUM_STANDINS_SEED: z.string().optional(),
    /** A JSON file of what the old host answers. */
    FASTIGIUM_STANDINS_OLD_SITE: z.string().optional(),
  })
  .parse(process.env);

try {
  const first = env.FASTIGIUM_STANDINS_PORT;
  const ports =
    first === 0
      ? NO_PORTS
      : {
          live: first,
          control: first + 1,
          tls: first + 2,
          registrar: first + 3,
          acme: first + 4,
          dns: first + 5,
          panel: first + 6,
        };
  const seed =
    env.FASTIGIUM_STANDINS_SEED === undefined
      ? { holdings: [] }
      : worldSeed.parse(JSON.parse(readFileSync(env.FASTIGIUM_STANDINS_SEED, 'utf8')));
  const oldSite =
    env.FASTIGIUM_STANDINS_OLD_SITE === undefined
      ? NO_OLD_SITE
      : oldSiteSeed.parse(JSON.parse(readFileSync(env.FASTIGIUM_STANDINS_OLD_SITE, 'utf8')));
  const world = await startWorld({
    folder: env.FASTIGIUM_STANDINS_FOLDER,
    token: env.FASTIGIUM_HOST_TOKEN,
    ports,
    seed,
    oldSite,
  });
  process.send?.({ environment: world.environment });
  const stop = () => {
    world.stop().then(
      () => process.exit(0),
      () => process.exit(1),
    );
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  process.on('disconnect', stop);
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
}
