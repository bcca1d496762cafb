/** The import of a real site, against the time that parsing its pages alone takes. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from 'parse5';
import type { Figure } from './figures.ts';
import { median, openBenchHouse, timed } from './house.ts';

const RUNS = 3;

export async function importBench(folder: string): Promise<Figure[]> {
  const files = readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && /\.html?$/i.test(entry.name))
    .map((entry) => join(entry.parentPath, entry.name));
  if (files.length === 0) throw new Error(`There is no page in ${folder}.`);
  const house = await openBenchHouse();
  try {
    // Both once before it counts, so that neither pays for the compiler or a cold disk.
    const parseAll = () => {
      for (const file of files) parse(readFileSync(file, 'utf8'));
    };
    parseAll();
    await house.bringIn('warm', folder);
    const [alone, whole]: [number[], number[]] = [[], []];
    for (let run = 0; run < RUNS; run += 1) {
      alone.push(await timed(parseAll));
      // Contents are kept once; so that every run writes them all, everything is forgotten in between.
      await house.forgetSites();
      whole.push(await timed(() => house.bringIn(`run ${run}`, folder)));
    }
    return [
      {
        name: `import of ${files.length} pages : parse5 alone`,
        value: median(whole) / median(alone),
        unit: 'ratio',
        most: 3,
        from: `${Math.round(median(whole))} ms : ${Math.round(median(alone))} ms`,
      },
    ];
  } finally {
    await house.stop();
  }
}
