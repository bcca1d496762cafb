/** Files that are there whole or not at all. */
import { randomUUID } from 'node:crypto';
import { mkdir, rename, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';

export async function writeWhole(place: string, text: string, mode = 0o644): Promise<void> {
  await mkdir(dirname(place), { recursive: true });
  const temporary = `${place}.${randomUUID()}`;
  await writeFile(temporary, text, { mode });
  await rename(temporary, place);
}
