/** What came in at this process and a job works on later. They have no name on the disk and end with it. */
import { DomainError } from '@fastigium/contracts/errors';
import { randomUUID } from 'node:crypto';
import type { Incoming } from './incoming.ts';

export class KeptUploads {
  readonly #kept = new Map<string, Incoming>();

  /** @returns what it is found by */
  keep(file: Incoming): string {
    const id = randomUUID();
    this.#kept.set(id, file);
    return id;
  }

  find(id: string): Incoming {
    const file = this.#kept.get(id);
    if (!file) throw new DomainError('upload-gone');
    return file;
  }

  async drop(id: string): Promise<void> {
    const file = this.#kept.get(id);
    this.#kept.delete(id);
    await file?.drop();
  }
}
