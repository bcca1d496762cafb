/**
 * Learns how much each kind of evidence tells, from real maps and from relaunches made of real sites, and
 * writes packages/core/src/redirects/matching/model.json. With --without NAME a map is left out, with
 * --out FILE the result goes elsewhere: that is how the bench shows that what was left out does as well.
 */
import { writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import type { Model } from '@fastigium/core/redirects/matching';
import { corpora } from './corpora.ts';
import { learnModel, type Lesson } from './learning.ts';
import { readMaps } from './maps.ts';
import { relaunch } from './relaunch.ts';

const { values } = parseArgs({
  options: {
    maps: { type: 'string' },
    without: { type: 'string' },
    out: { type: 'string' },
    relaunches: { type: 'string', default: '46' },
  },
});
const maps = readMaps(values.maps ?? '../shared/data/redirect-maps').filter(({ name }) => name !== values.without);
const sites = [...corpora(), ...maps.map(({ name, new: pages }) => ({ name, pages }))];
console.log(sites.map(({ name, pages }) => `${name} ${pages.length}`).join(', '));
// Several sites under one roof, each in a folder of its own, as larger houses have them.
const roofs = Array.from({ length: 9 }, (_, n) => ({
  name: `roof-${n}`,
  pages: [0, 1, 2].flatMap((k) => {
    const { name, pages } = sites[(n * 3 + k * 4 + Math.floor(n / 4)) % sites.length] as (typeof sites)[number];
    return pages.slice(0, 700).map((page) => ({ ...page, url: `/${name}${n % 2 === 0 ? '/latest' : ''}${page.url}` }));
  }),
}));
// The same pages in two languages, one of them made up letter by letter: what tells them apart is the branch.
const twofold = [0, 1, 3].map((n) => {
  const { name, pages } = sites[n] as (typeof sites)[number];
  const some = pages.slice(0, 350);
  return {
    name: `twofold-${name}`,
    pages: [
      ...some.map((page) => ({ ...page, url: `/en${page.url}`, language: 'en' })),
      ...some.map((page) => ({
        url: `/cy${page.url}`,
        title: otherTongue(page.title),
        text: otherTongue(page.text ?? ''),
        language: 'cy',
      })),
    ],
  };
});
const grounds = [...sites, ...roofs, ...twofold];
const count = Number(values.relaunches);
const made = (from: number): Lesson[] =>
  Array.from({ length: count }, (_, n) => relaunch(grounds[n % grounds.length] as (typeof grounds)[number], from + n))
    .filter(({ old }) => old.length >= 10)
    .map((map) => ({ map, weight: 1, isReal: false }));
const model: Model = learnModel([...maps.map((map) => ({ map, weight: 1, isReal: true })), ...made(1)], made(1001));
writeFileSync(
  values.out ?? 'packages/core/src/redirects/matching/model.json',
  `${JSON.stringify(model, (_, value: unknown) => (typeof value === 'number' ? Number(value.toPrecision(4)) : value))}\n`,
);

function otherTongue(text: string): string {
  return text.replace(/\p{L}{4,}/gu, (word) => [...word.toLowerCase()].reverse().join(''));
}
