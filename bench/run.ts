import { parseArgs } from 'node:util';
import type { Figure } from './figures.ts';
import { faultsBench } from './faults.ts';
import { firstLoadBench } from './firstLoad.ts';
import { gatheringBench } from './gathering.ts';
import { headsBench } from './heads.ts';
import { importBench } from './import.ts';
import { ledgersBench } from './ledgers.ts';
import { matchingBench, printMatching } from './matching/index.ts';
import { realSitesBench } from './realSites.ts';
import { publishingBench } from './publishing.ts';
import { redirectsBench } from './redirects.ts';
import { removalsBench } from './removals.ts';
import { republishBench } from './republish.ts';
import { sendingBench } from './sending.ts';
import { settlingBench } from './settling.ts';
import { strangersBench } from './strangers.ts';
import { surveyBench } from './survey.ts';

// A real site of about a thousand pages that nobody here wrote, from Debian.
const REAL_SITE = '/usr/share/doc/sqlite3';

const MAPS = new URL('data/redirect-maps', import.meta.url).pathname;

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { json: { type: 'boolean' }, site: { type: 'string' }, maps: { type: 'string' }, model: { type: 'string' } },
});
const benches: Readonly<Record<string, () => Promise<Figure[]>>> = {
  firstload: firstLoadBench,
  import: () => importBench(values.site ?? REAL_SITE),
  survey: surveyBench,
  heads: headsBench,
  redirects: () => Promise.resolve(redirectsBench()),
  removals: removalsBench,
  republish: republishBench,
  publishing: publishingBench,
  sending: sendingBench,
  ledgers: ledgersBench,
  settling: settlingBench,
  gathering: gatheringBench,
  faults: faultsBench,
  strangers: strangersBench,
};
if (positionals[0] === 'realsites') process.exit((await realSitesBench(positionals.slice(1))) ? 0 : 2);
if (positionals.length === 1 && positionals[0] === 'matching') {
  const maps = matchingBench(values.maps ?? MAPS, values.model);
  if (values.json) console.log(JSON.stringify(maps));
  else printMatching(maps);
  process.exit(0);
}
const names = positionals.length > 0 ? positionals : Object.keys(benches);
const figures: Figure[] = [];
for (const name of names) {
  const bench = benches[name];
  if (!bench) {
    console.error(`There is no benchmark called ${name}; there are ${Object.keys(benches).join(', ')}.`);
    process.exit(1);
  }
  for (const figure of await bench()) {
    figures.push(figure);
    const unit = figure.unit === 'ratio' ? '' : ` ${figure.unit}`;
    const value = unit === '' ? figure.value.toFixed(2) : figure.value.toFixed(0) + unit;
    console.log(`${figure.name.padEnd(54)} ${value.padStart(8)}   at most ${figure.most}${unit}   (${figure.from})`);
  }
}
if (values.json) console.log(JSON.stringify(figures));
process.exit(figures.every(({ value, most }) => value <= most) ? 0 : 2);
