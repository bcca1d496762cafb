/** A content put together from one that is kept here and what was sent: docs/host-protocol.md, "Pieces". */
import { createReadStream, existsSync } from 'node:fs';
import { recipeParts } from '@fastigium/contracts/ports/host';
import { readBody, Refusal } from '../world/http.ts';
import type { HostStore } from './store.ts';

/** Parts of a recipe are short; a body that says otherwise is none. */
const MOST_HEAD_BYTES = 8 * 1024 * 1024;

/** Yields the whole content; whether it is the right one shows in its hash. */
export async function* assembleFiles(
  store: HostStore,
  from: string,
  body: AsyncIterable<Uint8Array>,
): AsyncGenerator<Uint8Array> {
  const base = store.contentFile(from);
  if (!existsSync(base)) throw new Refusal(409, 'this host does not have the content it is made of');
  const sent = new Reader(body);
  const headBytes = (await sent.exactly(4)).readUInt32BE();
  if (headBytes > MOST_HEAD_BYTES) throw new Refusal(400, 'this is no recipe');
  for (const part of readBody(recipeParts, parseJson(await sent.exactly(headBytes)))) {
    if (!('copy' in part)) yield* sent.pieces(part.sent);
    else if (part.length > 0)
      yield* createReadStream(base, {
        start: part.copy,
        end: part.copy + part.length - 1,
      }) as AsyncIterable<Uint8Array>;
  }
}

function parseJson(bytes: Buffer): unknown {
  try {
    return JSON.parse(bytes.toString('utf8')) as unknown;
  } catch {
    throw new Refusal(400, 'this is no recipe');
  }
}

/** Takes as many bytes off a stream as are asked for. */
class Reader {
  readonly #source: AsyncIterator<Uint8Array>;
  #rest: Uint8Array = new Uint8Array();

  constructor(body: AsyncIterable<Uint8Array>) {
    this.#source = body[Symbol.asyncIterator]();
  }

  async exactly(length: number): Promise<Buffer> {
    const pieces: Uint8Array[] = [];
    for await (const piece of this.pieces(length)) pieces.push(piece);
    return Buffer.concat(pieces);
  }

  async *pieces(length: number): AsyncGenerator<Uint8Array> {
    for (let left = length; left > 0;) {
      if (this.#rest.length === 0) {
        const next = await this.#source.next();
        if (next.done) throw new Refusal(400, 'fewer bytes were sent than the recipe says');
        this.#rest = next.value;
      }
      const piece = this.#rest.subarray(0, left);
      this.#rest = this.#rest.subarray(piece.length);
      left -= piece.length;
      yield piece;
    }
  }
}
