/** Ways in which the stand-in can be told to fail, as a real host does now and then. */
import type { Request, RequestHandler } from 'express';
import { setTimeout as pause } from 'node:timers/promises';
import { z } from 'zod';

export const faultSettings = z.object({
  /** Every control request waits this long first. */
  delayMs: z.number().int().min(0).max(60_000).default(0),
  /** Every control request is answered 503. */
  refuse: z.boolean().default(false),
  /** The line is cut once this many bytes of contents have arrived. */
  dropAfterBytes: z.number().int().min(0).nullable().default(null),
  /** So many lines are cut, one after another, whatever is sent over them; then the fault is over. */
  drops: z.number().int().min(1).default(1),
  /** There is no room for contents: they are answered 507 (RFC 4918 section 11.5). */
  full: z.boolean().default(false),
  /** So many contents arrive with one byte wrong. */
  garble: z.number().int().min(0).default(0),
});

export type FaultSettings = z.infer<typeof faultSettings>;

export class Faults {
  settings: FaultSettings = faultSettings.parse({});
  #arrivedBytes = 0;

  set(settings: FaultSettings): void {
    this.settings = settings;
    this.#arrivedBytes = 0;
  }

  readonly middleware: RequestHandler = async (_req, res, next) => {
    const { delayMs, refuse } = this.settings;
    if (delayMs > 0) await pause(delayMs);
    if (refuse) res.status(503).json({ error: 'the stand-in was told to refuse' });
    else next();
  };

  /** Passes a body on, unless the line is to be cut in it. */
  async *arriving(req: Request, body: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
    const isGarbled = this.settings.garble > 0;
    if (isGarbled) this.settings = { ...this.settings, garble: this.settings.garble - 1 };
    let isFirst = true;
    for await (const piece of body) {
      this.#arrivedBytes += piece.length;
      const { dropAfterBytes } = this.settings;
      if (dropAfterBytes !== null && this.#arrivedBytes > dropAfterBytes) {
        const { drops } = this.settings;
        if (drops > 1) this.settings = { ...this.settings, drops: drops - 1 };
        else this.set({ ...this.settings, dropAfterBytes: null });
        req.socket.destroy();
        throw new Error('the stand-in was told to cut the line');
      }
      yield isGarbled && isFirst ? spoilFirst(piece) : piece;
      isFirst = false;
    }
  }
}

function spoilFirst(piece: Uint8Array): Uint8Array {
  const wrong = new Uint8Array(piece);
  if (wrong.length > 0) wrong[0] = (wrong[0] ?? 0) ^ 1;
  return wrong;
}
