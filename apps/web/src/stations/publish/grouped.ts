/** Changes under headings: by kind, or by who made them. */
import type { Change } from '@fastigium/contracts/api/releases';
import { formatList } from '../../logic/format.ts';
import { say } from './words.ts';

export interface Heading {
  readonly key: string;
  readonly heading: string;
  readonly count: number;
}

export type LedgerItem = Heading | Change;

const HEADINGS: readonly (readonly [Change['group'], string])[] = [
  ['visitors', say('grouped.whoCanVisit')],
  ['pages', say('common.pages')],
  ['addresses', say('common.addresses')],
  ['menus', say('common.menus')],
  ['metadata', say('grouped.metadata')],
  ['redirects', say('grouped.redirects')],
  ['files', say('common.files')],
];

export function isHeading(item: LedgerItem): item is Heading {
  return 'heading' in item;
}

export function groupChanges(changes: readonly Change[]): LedgerItem[] {
  return HEADINGS.flatMap(([group, heading]) =>
    groupUnder(
      `heading:${group}`,
      heading,
      changes.filter((change) => change.group === group),
    ),
  );
}

/** What nobody made by itself comes last: it follows from the rest. */
export function groupByPerson(
  changes: readonly Change[],
  peopleOf: (change: Change) => readonly string[],
): LedgerItem[] {
  const byPeople = new Map<string, Change[]>();
  for (const change of changes) {
    const names = formatList(peopleOf(change));
    byPeople.set(names, [...(byPeople.get(names) ?? []), change]);
  }
  return [...byPeople]
    .sort(([a], [b]) => (a === '' ? 1 : b === '' ? -1 : a.localeCompare(b)))
    .flatMap(([names, ofThem]) =>
      groupUnder(`people:${names}`, names === '' ? say('grouped.followsFromTheRest') : names, ofThem),
    );
}

function groupUnder(key: string, heading: string, changes: readonly Change[]): LedgerItem[] {
  return changes.length === 0 ? [] : [{ key, heading, count: changes.length }, ...changes];
}
