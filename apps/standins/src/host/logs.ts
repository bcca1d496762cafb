/** Access logs, one a site, written as requests come and handed out as they grow. */
import type { LogPiece } from '@fastigium/contracts/ports/host';
import { appendFileSync, mkdirSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { join } from 'node:path';
import { hashSha256 } from './store.ts';

/** A log is told from another by how it begins. */
const BEGINNING_BYTES = 4096;

export class HostLogs {
  readonly #folder: string;

  constructor(folder: string) {
    this.#folder = folder;
    mkdirSync(folder, { recursive: true });
  }

  readonly add = (site: string, line: string): void => appendFileSync(this.#file(site), line);

  async read(site: string, fromByte: number, mostBytes: number): Promise<LogPiece> {
    const file = await open(this.#file(site), 'r').catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'ENOENT') return undefined;
      throw error;
    });
    if (!file) return { bytes: new Uint8Array(), sizeBytes: 0, begun: '' };
    try {
      const { size } = await file.stat();
      const bytes = Buffer.alloc(Math.max(0, Math.min(mostBytes, size - fromByte)));
      const { bytesRead } = await file.read(bytes, 0, bytes.length, fromByte);
      const beginning = Buffer.alloc(Math.min(BEGINNING_BYTES, size));
      await file.read(beginning, 0, beginning.length, 0);
      const end = beginning.indexOf(10);
      return {
        bytes: bytes.subarray(0, bytesRead),
        sizeBytes: size,
        begun: end < 0 ? '' : hashSha256(beginning.subarray(0, end)),
      };
    } finally {
      await file.close();
    }
  }

  #file(site: string): string {
    return join(this.#folder, `${site}.access.log`);
  }
}
