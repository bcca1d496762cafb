/** What the table says of each page, and which pages it shows in which order. */
import type { MetadataRow } from '@fastigium/contracts/api/metadata';
import { COMMON_LIMITS, isMeasured, countLetters, measureTitlePx } from '@fastigium/core/head';
import { say } from './words.ts';

export interface Limits {
  readonly titlePx: number;
  readonly descriptionLetters: number;
}

export type Fault = 'missing' | 'long' | 'short' | 'doubled';

export interface JudgedRow {
  readonly row: MetadataRow;
  readonly titlePx: number;
  /** Some letters are of scripts the font does not have. */
  readonly isGuessed: boolean;
  readonly letters: number;
  readonly title: Fault | undefined;
  readonly description: Fault | undefined;
  readonly isShut: boolean;
}

/** Less says too little to be chosen by (common practice, no source). */
const SHORT = { titlePx: 100, descriptionLetters: 50 } as const;
export const DEFAULT_LIMITS: Limits = {
  titlePx: COMMON_LIMITS.titlePx,
  descriptionLetters: COMMON_LIMITS.descriptionLetters,
};

export function judgeRows(rows: readonly MetadataRow[], limits: Limits = DEFAULT_LIMITS): JudgedRow[] {
  const titles = countTexts(rows, ({ title }) => title.text);
  const descriptions = countTexts(rows, ({ description }) => description.text);
  return rows.map((row) => {
    const titlePx = measureTitlePx(row.title.text);
    const letters = countLetters(row.description.text);
    return {
      row,
      titlePx,
      isGuessed: !isMeasured(row.title.text),
      letters,
      isShut: /\b(noindex|none)\b/i.test(row.robots.text),
      title: judgeFault(row.title.text, (titles.get(row.title.text) ?? 0) > 1, titlePx, limits.titlePx, SHORT.titlePx),
      description: judgeFault(
        row.description.text,
        (descriptions.get(row.description.text) ?? 0) > 1,
        letters,
        limits.descriptionLetters,
        SHORT.descriptionLetters,
      ),
    };
  });
}

function judgeFault(text: string, isDoubled: boolean, measure: number, most: number, least: number): Fault | undefined {
  if (text === '') return 'missing';
  if (isDoubled) return 'doubled';
  return measure > most ? 'long' : measure < least ? 'short' : undefined;
}

function countTexts(rows: readonly MetadataRow[], textOf: (row: MetadataRow) => string): Map<string, number> {
  const out = new Map<string, number>();
  for (const row of rows) {
    const text = textOf(row);
    if (text !== '') out.set(text, (out.get(text) ?? 0) + 1);
  }
  return out;
}

export const FILTERS = {
  all: { label: say('judging.allPages'), holds: () => true },
  faulty: {
    label: say('judging.missingDoubledTooLongOr'),
    holds: ({ title, description }: JudgedRow) => title !== undefined || description !== undefined,
  },
  suggested: {
    label: say('judging.withASuggestion'),
    holds: ({ row, description }: JudgedRow) => description === 'missing' && row.suggestedDescription !== '',
  },
  conflicts: { label: say('judging.withATagOfTheir'), holds: ({ row }: JudgedRow) => row.conflicts > 0 },
  shut: { label: say('judging.keptOutOfSearch'), holds: ({ isShut }: JudgedRow) => isShut },
  unshared: { label: say('judging.withoutASharePicture'), holds: ({ row }: JudgedRow) => row.shareImage.text === '' },
} as const;
export type FilterName = keyof typeof FILTERS;

export const SORTS = {
  tree: say('judging.inTreeOrder'),
  titlePx: say('judging.widestTitlesFirst'),
  letters: say('judging.shortestDescriptionsFirst'),
  address: say('judging.byAddress'),
} as const;
export type SortName = keyof typeof SORTS;

export function filterRows(
  rows: readonly JudgedRow[],
  { filter, sort, search }: { readonly filter: FilterName; readonly sort: SortName; readonly search: string },
): JudgedRow[] {
  const wanted = search.trim().toLowerCase();
  const shown = rows.filter(
    (each) =>
      FILTERS[filter].holds(each) &&
      (wanted === '' ||
        `${each.row.title.text} ${each.row.address} ${each.row.description.text}`.toLowerCase().includes(wanted)),
  );
  if (sort === 'titlePx') shown.sort((a, b) => b.titlePx - a.titlePx);
  else if (sort === 'letters') shown.sort((a, b) => a.letters - b.letters);
  else if (sort === 'address') shown.sort((a, b) => (a.row.address < b.row.address ? -1 : 1));
  return shown;
}

/** Titles and descriptions a find and replace changes. */
export interface Replacement {
  readonly row: MetadataRow;
  readonly name: 'title' | 'meta:description';
  readonly before: string;
  readonly after: string;
}

export function findReplacements(
  rows: readonly MetadataRow[],
  name: Replacement['name'],
  replace: (text: string) => string,
): Replacement[] {
  return rows.flatMap((row) => {
    const before = name === 'title' ? row.ownTitle : row.description.text;
    const after = replace(before).replace(/\s+/g, ' ').trim();
    return after !== before && after !== '' ? [{ row, name, before, after }] : [];
  });
}
