import { pino } from 'pino';
import { readConfig, type Config } from './config/config.ts';
import { shortenError } from './http/shortError.ts';
import { startServer } from './server.ts';
import { speak, explainError } from './words.ts';

/** "Something was found in an unconfigured or misconfigured state" (sysexits.h); systemd does not start it again for that. */
const MISCONFIGURED = 78;

function configured(): Config {
  try {
    return readConfig(process.env);
  } catch (error) {
    // For whoever is setting it up, before there is a log.
    process.stderr.write(`${(error as Error).message}\n`);
    process.exit(MISCONFIGURED);
  }
}

const config = configured();
const log = pino({
  level: config.logLevel,
  base: { service: 'fastigium' },
  redact: ['*.password', '*.token', '*.secret', '*.cookie', '*.authorization', '*.key'],
  // What a database says of a row it refused holds what was in it.
  serializers: { err: shortenError },
});

try {
  // Built, the worker stands beside this file.
  const here = (path: string) => new URL(path, import.meta.url).pathname;
  const server = await startServer(config, { log, migrations: here('../migrations'), worker: here('./worker.js') });
  log.info({ port: server.port, previewPort: server.previewPort }, 'listening');
  // The start command waits for this line.
  process.send?.('ready');
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    void server.stop().then(
      () => process.exit(0),
      (error: unknown) => {
        log.error({ err: error }, 'stopping failed');
        process.exit(1);
      },
    );
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  process.on('disconnect', stop);
} catch (error) {
  log.fatal({ err: error }, 'cannot start');
  process.stderr.write(`Fastigium cannot start: ${speak(explainError(error))}\n`);
  process.exit(1);
}
