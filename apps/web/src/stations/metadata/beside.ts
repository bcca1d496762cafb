/** The draft's head beside the live one, as one list. */
import type { PageHead } from '@fastigium/contracts/api/metadata';
import { diffArrays } from 'diff';

export interface BesideLine {
  readonly source: string;
  readonly name: string | null;
  readonly from: PageHead['draft'][number]['from'];
  readonly state: 'same' | 'new' | 'gone';
}

/** Lines that are live and gone in the draft stand where they stood; a page that is not live has none. */
export function compareWithLive({ draft, live }: Pick<PageHead, 'draft' | 'live'>): BesideLine[] {
  if (live === null) return draft.map((line) => ({ ...line, state: 'same' }));
  const out: BesideLine[] = [];
  for (const part of diffArrays(
    live.map(({ source }) => source),
    draft.map(({ source }) => source),
  )) {
    for (const source of part.value) {
      const line = part.removed ? undefined : draft[out.filter(({ state }) => state !== 'gone').length];
      out.push(
        line
          ? { ...line, state: part.added ? 'new' : 'same' }
          : { source, name: null, from: 'imported', state: 'gone' },
      );
    }
  }
  return out;
}
