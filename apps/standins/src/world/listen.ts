/** Opening and closing ports on loopback. */
import type { Server } from 'node:http';
import type { AddressInfo, Server as NetServer } from 'node:net';

export function listen(server: NetServer, port: number, address = '127.0.0.1'): Promise<number> {
  return new Promise((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) =>
      reject(
        error.code === 'EADDRINUSE'
          ? new Error(`Port ${port} is in use. Stop what uses it, or choose another one.`)
          : error,
      ),
    );
    server.listen(port, address, () => resolve((server.address() as AddressInfo).port));
  });
}

export function closeServer(server: Server | NetServer): Promise<void> {
  return new Promise((resolve) => {
    server.close(() => resolve());
    if ('closeAllConnections' in server) server.closeAllConnections();
  });
}
