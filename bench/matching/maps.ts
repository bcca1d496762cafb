/** Maps of real moves: addresses of an old and a new site, and which became which. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';

const oldPage = z.object({
  url: z.string(),
  title: z.string().optional(),
  text: z.string().optional(),
  language: z.string().optional(),
});
const newPage = oldPage.extend({ title: z.string() });
const map = z.object({
  name: z.string(),
  old: z.array(oldPage),
  new: z.array(newPage),
  truth: z.record(z.string(), z.string().nullable()),
});

export type OldMapPage = z.infer<typeof oldPage>;
export type MapPage = z.infer<typeof newPage>;
export type RedirectMap = z.infer<typeof map>;

/** Every map in a folder. Throws a ZodError that names the file's faults. */
export function readMaps(folder: string): RedirectMap[] {
  return readdirSync(folder)
    .filter((name) => name.endsWith('.json'))
    .sort()
    .map((name) => map.parse(JSON.parse(readFileSync(join(folder, name), 'utf8'))));
}
