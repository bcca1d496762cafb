/** Large files that changed a little: what makes the new one of the old one that the host has. */
import type { Recipe } from '@fastigium/core/pieces';
import type { ReleaseDifference } from '@fastigium/core/release';
import { LRUCache } from 'lru-cache';
import type { Deps } from '../../deps.ts';
import { readContent } from '../shared/contents.ts';

/** Smaller ones go out whole: looking for what they have in common costs more than it saves. */
export const PIECES_FROM_BYTES = 256 * 1024; // 256 KiB
/** A recipe that saves less than this part is not worth another way. */
const WORTH = 0.8;

/** By the hash of what is to be sent, the hash of what stood at the same path. */
export function pairBases({ changed }: Pick<ReleaseDifference, 'changed'>): Map<string, string> {
  return new Map(
    changed
      .filter(({ before, after }) => before.sizeBytes >= PIECES_FROM_BYTES && after.sizeBytes >= PIECES_FROM_BYTES)
      .map(({ before, after }) => [after.hash, before.hash]),
  );
}

/** Undefined where the whole file is as good. */
export async function findRecipe(
  deps: Deps,
  from: string,
  to: string,
  signal?: AbortSignal,
): Promise<Recipe | undefined> {
  const now = await readContent(deps.db, to);
  const recipe = await deps.threads.writePieces({ old: await readContent(deps.db, from), now }, signal);
  sizes.set(`${from} ${to}`, recipe.sent.length);
  return recipe.sent.length < now.length * WORTH ? recipe : undefined;
}

/** What two contents differ by never changes. */
const sizes = new LRUCache<string, number>({ max: 1000 });

export async function countSentBytes(deps: Deps, from: string, to: string, wholeBytes: number): Promise<number> {
  if (!sizes.has(`${from} ${to}`)) await findRecipe(deps, from, to);
  const sent = sizes.get(`${from} ${to}`) ?? wholeBytes;
  return sent < wholeBytes * WORTH ? sent : wholeBytes;
}
