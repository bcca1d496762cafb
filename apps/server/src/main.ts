import { pino } from 'pino';
import { readConfig } from './config.ts';
import { startServer } from './server.ts';

const config = readConfig(process.env);
const log = pino({
  level: config.logLevel,
  base: { service: 'fastigium' },
  redact: ['*.password', '*.token', '*.secret'],
});

try {
  const server = await startServer(config, { log, migrations: new URL('../migrations', import.meta.url).pathname });
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
  process.exit(1);
}
