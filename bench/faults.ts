/** A hundred releases under steady visitors, each with a fault; the test does a few of them. */
import { FAULTS } from '../apps/server/tests/faults/brokenHouse.ts';
import { faultRun } from '../apps/server/tests/faults/faultRun.ts';
import type { Figure } from './figures.ts';

const PUBLISHES = 100;

export async function faultsBench(): Promise<Figure[]> {
  const seed = Math.floor(Math.random() * 1_000_000);
  const { wrong, said, unclean, answers, rollbacks, seconds } = await faultRun({
    serverFile: new URL('../apps/server/dist/main.js', import.meta.url).pathname,
    publishes: PUBLISHES,
    seed,
    say: (line) => {
      console.error(line);
    },
  });
  for (const line of [...wrong.slice(0, 20), ...said, ...unclean]) console.error(line);
  return [
    {
      name: `answers to visitors that were wrong, ${PUBLISHES} releases`,
      value: wrong.length,
      unit: 'in all',
      most: 0,
      from: `${answers} answers, ${FAULTS.length - 1} kinds of faults, ${rollbacks} rollbacks, ${seconds.toFixed(0)} s, seed ${seed}`,
    },
    {
      name: 'words that did not fit what had happened',
      value: said.length,
      unit: 'in all',
      most: 0,
      from: 'the error of each release that did not end well at once',
    },
    {
      name: 'things not clean afterwards',
      value: unclean.length,
      unit: 'in all',
      most: 0,
      from: 'releases, jobs, contents, host against database, every page',
    },
  ];
}
