/** Long answers: whole, as their contract says, and with everybody else's turn in between. */
import { defineEndpoint } from '@fastigium/contracts/define';
import type { Response } from 'express';
import express from 'express';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, expect, it } from 'vitest';
import { z } from 'zod';
import { writeAnswer } from './answer.ts';

const list = defineEndpoint('GET /list', {
  summary: 'A list',
  access: 'public',
  answer: z.object({
    version: z.number(),
    rows: z.array(z.object({ n: z.number(), text: z.string() })),
    others: z.array(z.number()),
  }),
});
const rowsOf = (count: number) => Array.from({ length: count }, (_, n) => ({ n, text: `row “${n}”` }));

let server: Server | undefined;
afterEach(() => {
  server?.closeAllConnections();
  server?.close();
});

/** @returns what comes of an answer that is written to somebody who asks for it */
async function ask(answer: unknown, beside: (res: Response) => void = () => {}): Promise<globalThis.Response> {
  const app = express();
  app.get('/list', async (_req, res) => {
    beside(res);
    await writeAnswer(res, list, answer);
  });
  app.use(((_error, _req, res, next) =>
    res.headersSent ? next(_error) : res.status(500).end()) as express.ErrorRequestHandler);
  server = createServer(app).listen(0, '127.0.0.1');
  await new Promise((resolve) => server?.once('listening', resolve));
  return fetch(`http://127.0.0.1:${(server.address() as AddressInfo).port}/list`);
}

it.each([0, 1, 250, 251, 10_000])('%i rows come whole', async (count) => {
  const answer = { version: 3, rows: rowsOf(count), others: Array.from({ length: 600 }, (_, n) => n) };
  const response = await ask(answer);
  expect(response.status).toBe(200);
  expect(response.headers.get('content-type')).toContain('application/json');
  expect(await response.json()).toEqual(answer);
});

it('has nothing but what the contract names', async () => {
  const rows = rowsOf(300).map((row) => ({ ...row, secret: 'x' }));
  const text = await (await ask({ version: 1, rows, others: [], more: 'x' })).text();
  expect(text).not.toContain('secret');
  expect(text).not.toContain('more');
});

it('lets everybody else have a turn while it is written', async () => {
  let turns = 0;
  const count = (res: Response) => {
    const take = () => {
      turns += 1;
      if (!res.writableEnded) setImmediate(take);
    };
    setImmediate(take);
  };
  await (await ask({ version: 1, rows: rowsOf(10_000), others: [] }, count)).text();
  expect(turns).toBeGreaterThanOrEqual(10_000 / 250);
});

it('is refused before anything is written where what is no row is wrong', async () => {
  expect((await ask({ version: 'three', rows: rowsOf(300), others: [] })).status).toBe(500);
});

it('is broken off, and never ends as if it were whole, where a row is wrong', async () => {
  const rows: unknown[] = rowsOf(1000);
  rows[900] = { n: 'nine hundred' };
  await expect(ask({ version: 1, rows, others: [] }).then((response) => response.text())).rejects.toThrow();
});
