import { trailApi, type TrailEntry } from '@fastigium/contracts/api/trail';
import { stringify } from 'csv-stringify';
import { pipeline } from 'node:stream/promises';
import type { Deps } from '../../deps.ts';
import { speak } from '../../words.ts';
import { ANSWERED, type Routes } from '../../http/route.ts';
import { readTrail, type TrailQuery } from './trail.ts';

/** Of a list on a screen, and of one question to the database while all of it is written out. */
const PAGE = 100;
const BATCH = 2000;

const COLUMNS = ['number', 'at', 'kind', 'what', 'who', 'address', 'request', 'site', 'about', 'outcome'] as const;

export function addTrailRoutes(routes: Routes, deps: Deps): void {
  routes.on(trailApi.list, async ({ person, query }) => {
    const found = await readTrail(deps.db, person.team, query, PAGE + 1);
    return { entries: found.slice(0, PAGE), more: found.length > PAGE };
  });
  routes.on(trailApi.table, async ({ person, query, res }) => {
    res.type('text/csv').attachment('trail.csv');
    // Spreadsheets reckon with what begins like a formula; names come from outside.
    const table = stringify({
      header: true,
      columns: [...COLUMNS],
      escape_formulas: true,
      record_delimiter: 'windows',
    });
    await pipeline(walkEntries(deps, person.team, query), table, res);
    return ANSWERED;
  });
}

type SpokenEntry = Omit<TrailEntry, 'what' | 'about'> & { readonly what: string; readonly about: string | null };

async function* walkEntries({ db }: Deps, team: string, query: TrailQuery): AsyncGenerator<SpokenEntry> {
  let before = query.before;
  for (;;) {
    const entries = await readTrail(db, team, { ...query, before }, BATCH);
    for (const { what, about, ...entry } of entries)
      yield { ...entry, what: speak(what), about: about === null ? null : speak(about) };
    before = entries.at(-1)?.number;
    if (entries.length < BATCH) return;
  }
}
