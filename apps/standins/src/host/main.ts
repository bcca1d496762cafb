/** The host stand-in as a process of its own. */
import { z } from 'zod';
import { startHost } from './host.ts';

const port = z.coerce.number().int().min(0).max(65_535);
const env = z.object({
  FASTIGIUM_HOST_FOLDER: z.string().min(1),
  FASTIGIUM_HOST_TOKEN: z.string().min(16),
  FASTIGIUM_HOST_CONTROL_PORT: port.default(4303),
  FASTIGIUM_HOST_PUBLIC_PORT: port.default(4302),
}).parse(process.env);

try {
  const host = await startHost({
    folder: env.FASTIGIUM_HOST_FOLDER, token: env.FASTIGIUM_HOST_TOKEN,
    controlPort: env.FASTIGIUM_HOST_CONTROL_PORT, publicPort: env.FASTIGIUM_HOST_PUBLIC_PORT,
  });
  process.send?.('ready');
  const stop = () => void host.stop().then(() => process.exit(0));
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  process.on('disconnect', stop);
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
}
