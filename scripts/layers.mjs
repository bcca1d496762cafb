#!/usr/bin/env node
/** Shows which part of the server and of the web application stands on which: `npm run layers`. */
import { featureImports, layersOf, webImports } from './lib/layers.mjs';
import { say } from './lib/say.mjs';

const root = new URL('..', import.meta.url).pathname;
let isRound = false;
for (const [title, between] of [
  ['Features of the server', featureImports(root)],
  ['Parts of the web application', webImports(root)],
]) {
  const { layers, circles } = layersOf(between);
  say(`\n${title}, each on those below it:`);
  for (const [n, layer] of [...layers.entries()].reverse()) say(`  ${n + 1}  ${layer.join(', ')}`);
  if (circles.length === 0) continue;
  isRound = true;
  say(`  In circles, or above one: ${circles.join(', ')}`);
}
process.exit(isRound ? 1 : 0);
