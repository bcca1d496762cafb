/** Changes by kind, each kind under its heading. */
import type { Change } from '@fastigium/contracts/api/releases';

export interface Heading {
  readonly key: string;
  readonly heading: string;
  readonly count: number;
}

export type LedgerItem = Heading | Change;

const HEADINGS: readonly (readonly [Change['group'], string])[] = [
  ['pages', 'Pages'], ['addresses', 'Addresses'], ['metadata', 'Metadata'], ['redirects', 'Redirects'], ['files', 'Files'],
];

export function isHeading(item: LedgerItem): item is Heading {
  return 'heading' in item;
}

export function grouped(changes: readonly Change[]): LedgerItem[] {
  return HEADINGS.flatMap(([group, heading]) => {
    const inGroup = changes.filter((change) => change.group === group);
    return inGroup.length === 0 ? [] : [{ key: `heading:${group}`, heading, count: inGroup.length }, ...inGroup];
  });
}
