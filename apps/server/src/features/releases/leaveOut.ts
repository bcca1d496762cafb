/**
 * Leaving decisions out of one release: they are taken back, the release stands on the draft as it is then, and they
 * are done again, all in one transaction. So a release is always a version of the draft, and the history says what
 * happened.
 */
import { decision as decided } from '@fastigium/contracts/messages/decision';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { readSiteState } from '../draft/history.ts';
import { readSituation } from '../draft/prepare/situation.ts';
import { prepareUndo, readUndone } from '../draft/prepare/undo.ts';
import { recordDecision } from '../draft/record.ts';

interface LeftOut {
  readonly site: string;
  readonly by: { readonly id: string; readonly name: string };
  /** Numbers of decisions. */
  readonly of: readonly number[];
}

/** @param release begins the release of a version */
export async function leaveOutAround<T>(
  tx: Queries,
  deps: Deps,
  { site, by, of: leftOut }: LeftOut,
  release: (version: number) => Promise<T>,
): Promise<T> {
  const undo = async (seq: number, how: 'left-out' | 'in-draft'): Promise<number> => {
    const state = await readSiteState(tx, site);
    const { decision, message } = await prepareUndo(await readSituation(tx, deps, site, state), seq);
    return recordDecision(tx, state, by, decision, decided(how, { decision: readUndone(message) }));
  };
  const taken: number[] = [];
  // The newest first, as going back step by step would.
  for (const seq of [...new Set(leftOut)].sort((a, b) => b - a)) taken.push(await undo(seq, 'left-out'));
  const asked = await release(taken.at(-1) ?? 0);
  for (const seq of taken.reverse()) await undo(seq, 'in-draft');
  return asked;
}
