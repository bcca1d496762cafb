/** The clock all stand-ins live by. It can run ahead of the real one, so that a day passes in a moment; never back. */
import { existsSync, readFileSync } from 'node:fs';
import { writeWhole } from './files.ts';

export class WorldClock {
  readonly #file: string;
  #aheadMs: number;

  constructor(file: string) {
    this.#file = file;
    this.#aheadMs = existsSync(file)
      ? Number((JSON.parse(readFileSync(file, 'utf8')) as { aheadMs: number }).aheadMs)
      : 0;
  }

  readonly now = (): number => Date.now() + this.#aheadMs;

  get aheadMs(): number {
    return this.#aheadMs;
  }

  async runOn(ms: number): Promise<void> {
    this.#aheadMs += Math.max(0, ms);
    await writeWhole(this.#file, JSON.stringify({ aheadMs: this.#aheadMs }));
  }
}
