/** The demo's files, as a designer would drop them. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

export const DEMO = new URL('../../../demo/lanternmoor/site/', import.meta.url).pathname;

export function demoFiles(): Record<string, Uint8Array> {
  return Object.fromEntries(
    readdirSync(DEMO, { recursive: true, withFileTypes: true })
      .filter((entry) => entry.isFile())
      .map((entry) => {
        const file = join(entry.parentPath, entry.name);
        return [file.slice(DEMO.length), readFileSync(file)];
      }),
  );
}
