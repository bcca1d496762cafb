/** Child processes of a command: started, waited for, ended by their own id. */
import { fork } from 'node:child_process';
import { createServer } from 'node:net';
import { Stop } from './say.mjs';

/** Starts a Node.js program and waits until it says that it is ready. */
export function startProgram(name, file, env) {
  const child = fork(file, [], {
    env: { ...process.env, ...env },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    detached: true,
  });
  const ended = new Promise((resolve) => child.once('exit', (code, signal) => resolve(signal ?? code)));
  const ready = new Promise((resolve, reject) => {
    child.once('message', resolve);
    void ended.then((how) =>
      reject(new Stop(`The ${name} ended while starting (${how}). Its last lines above say why.`)),
    );
  });
  return {
    name,
    pid: child.pid,
    ended,
    ready,
    async stop() {
      if (child.exitCode === null && child.signalCode === null) child.kill('SIGTERM');
      const patience = setTimeout(() => child.kill('SIGKILL'), 10_000);
      await ended;
      clearTimeout(patience);
    },
  };
}

export function isFree(port) {
  return new Promise((resolve) => {
    const server = createServer();
    server.once('error', () => resolve(false));
    server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
  });
}
