/**
 * The twelve acts that designers do most, on sites in several manners of markup and on a real one: what may differ and
 * where each link has to lead is worked out by a checker that shares no code with the application, and held against the
 * live host, file by file and link by link. The whole corpus runs as a bench.
 */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ACTS, runAct, type ActContext } from '../../../corpus/check/acts.ts';
import { MANNERS } from '../../../corpus/manners.ts';
import { filesOf, realSite, type Files } from '../../../corpus/sites.ts';
import { letBe, openHouse, zip, type House } from './harness.ts';

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.stop());

const SITES: readonly [name: string, files: () => Files][] = [
  ...['cells of a row, HTML 3.2 in capitals', 'a tree that shows the open branch'].map(
    (name): [string, () => Files] => [
      name,
      () =>
        Object.fromEntries(
          Object.entries(MANNERS.find((manner) => manner.name === name)?.files ?? {}).map(([path, text]) => [
            path,
            Buffer.from(text),
          ]),
        ),
    ],
  ),
  ['startbootstrap-sb-admin-2', () => filesOf(realSite('startbootstrap-sb-admin-2'))],
];

describe.each(SITES)('%s', (name, read) => {
  let site: ActContext;
  beforeAll(async () => {
    const files = read();
    const id = await house.owner.newSite(name);
    await house.owner.bringIn(id, await zip(files));
    const { hostName } = await house.owner.overview(id);
    site = {
      client: house.owner,
      id,
      files,
      zip: (each) => zip(each),
      visit: (path) => house.visit(`${hostName}.localhost`, path),
      publish: async () => {
        await letBe(house, id);
        const { state, error } = await house.owner.publish(id);
        if (state !== 'done') throw new Error(`publishing ended ${state}: ${JSON.stringify(error)}`);
      },
    };
    await site.publish();
  }, 120_000);

  it.each(ACTS)(
    '$name',
    async (act) => {
      const outcome = await runAct(act, site);
      // Each of these sites has something for every act.
      expect(typeof outcome === 'string' ? [outcome] : outcome.slice(0, 10)).toEqual([]);
    },
    180_000,
  );
});
