/**
 * A server may close a connection it kept at any time, so that the next request over it meets nobody (RFC 9112, section
 * 9.5, and RFC 9110, section 9.2.2). The servers here answer the first request of each connection and reset at the second.
 */
import { randomBytes } from 'node:crypto';
import { createServer as createHttpServer } from 'node:http';
import { createServer, type Server, type Socket } from 'node:net';
import { afterEach, expect, it } from 'vitest';
import { createHttpHost } from '../host/httpHost.ts';
import { createLiveReader } from './liveReader.ts';

let server: Server;
const sockets = new Set<Socket>();
afterEach(async () => {
  for (const socket of sockets) socket.destroy();
  await new Promise((resolve) => server.close(resolve));
});

/** Answers each request with its number among all; @returns the port, and which requests were received */
async function closesWhenReused(body: (request: string) => string): Promise<{ port: number; received: string[] }> {
  const received: string[] = [];
  server = createServer((socket) => {
    sockets.add(socket);
    let before = 0;
    socket.on('error', () => {});
    socket.on('data', (bytes) => {
      const line = bytes.toString('latin1').split(' HTTP/')[0] ?? '';
      received.push(line);
      before += 1;
      if (before > 1) {
        socket.resetAndDestroy();
        return;
      }
      const text = body(line);
      socket.write(
        `HTTP/1.1 200 OK\r\nContent-Type: application/json\r\nContent-Length: ${text.length}\r\nConnection: keep-alive\r\n\r\n${text}`,
      );
    });
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return { port: (server.address() as { port: number }).port, received };
}

/** A connection is put back a moment after the answer was read. */
const settle = async () => {
  for (let n = 0; n < 5; n += 1) await new Promise((resolve) => setImmediate(resolve));
};

it('a page of the live site is asked for again over a new connection', async () => {
  const { port, received } = await closesWhenReused((line) => line);
  const readLive = createLiveReader({ endpointOf: (address, port) => Promise.resolve({ address, port }) });
  const ask = async (path: string) => {
    const answer = await readLive(
      new URL(path, `http://127.0.0.1:${port}`),
      { bytes: 1000, withinMs: 5000 },
      new AbortController().signal,
    );
    await settle();
    return answer.body.toString();
  };
  expect(await ask('/one')).toBe('GET /one');
  expect(await ask('/two')).toBe('GET /two');
  // The connection was kept indeed, or this proves nothing.
  expect(received).toEqual(['GET /one', 'GET /two', 'GET /two']);
});

it('so is the host, for what may be asked twice', async () => {
  const { port, received } = await closesWhenReused((line) => (line.startsWith('GET') ? '{"release":null}' : '{}'));
  const host = createHttpHost({ controlUrl: `http://127.0.0.1:${port}`, token: 't', urlOf: () => '' });
  for (let n = 0; n < 2; n += 1) {
    expect(await host.current('moor')).toBe(null);
    await settle();
  }
  expect(received).toEqual(['GET /sites/moor/current', 'GET /sites/moor/current', 'GET /sites/moor/current']);
  host.close();
});

it('a switch to a release goes over a connection of its own, for nobody could tell whether it came about', async () => {
  const { port, received } = await closesWhenReused((line) => (line.startsWith('GET') ? '{"release":null}' : '{}'));
  const host = createHttpHost({ controlUrl: `http://127.0.0.1:${port}`, token: 't', urlOf: () => '' });
  await host.current('moor');
  await settle();
  await host.switchTo('moor', 'r1', null);
  expect(received).toEqual(['GET /sites/moor/current', 'POST /sites/moor/current']);
  host.close();
});

it('what a request took on the wire is told to the byte', async () => {
  let readBytes = 0;
  const http = createHttpServer((req, res) => {
    req.resume().on('end', () => {
      readBytes = req.socket.bytesRead;
      res.setHeader('connection', 'close').end('{}');
    });
  });
  await new Promise<void>((resolve) => http.listen(0, '127.0.0.1', resolve));
  const { port } = http.address() as { port: number };
  const host = createHttpHost({ controlUrl: `http://127.0.0.1:${port}`, token: 't', urlOf: () => '' });
  const signal = new AbortController().signal;
  try {
    for (const bytes of [Buffer.from('short'), Buffer.alloc(50_000, 'a'), randomBytes(3000)])
      expect(await host.put('moor', 'ab'.repeat(32), bytes, signal)).toBe(readBytes);
  } finally {
    host.close();
    http.close();
  }
});
