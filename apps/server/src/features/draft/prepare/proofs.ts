/** What visitors of a draft that is being decided on would meet, asked of the database a hop at a time. */
import { splitAddress } from '@fastigium/core/address';
import { walkProof, type Proof, type RuleIndex } from '@fastigium/core/redirects';
import { stripBase, findPublishedPath, placeUnderBase } from '@fastigium/core/release';
import { withRemoved, type Draft } from '@fastigium/core/site';
import { filterImported, readPagesById } from '../pageFiles.ts';
import type { Situation } from './situation.ts';

/** Which of some paths are published by a draft: imported files, less those that moved away, and those that moved there. */
export async function findExistingFiles(
  { tx, importId }: Situation,
  draft: Draft,
  paths: readonly string[],
): Promise<Set<string>> {
  const moved = await readPagesById(tx, importId, draft, draft.addresses.keys());
  const away = await readPagesById(tx, importId, withRemoved(draft), draft.removed.keys());
  const left = new Set([
    ...filterImported(draft, [...moved.values(), ...away.values()]).map(({ sourcePath }) => sourcePath),
    ...draft.removedFiles.keys(),
  ]);
  const arrived = new Set([...moved.values()].map((page) => findPublishedPath(draft, page)));
  const inside = paths.flatMap((path) => stripBase(draft.basePath, path) ?? []);
  const rows = await tx.many<{ path: string }>('select path from source_file where import_id = $1 and path = any($2)', [
    importId,
    inside,
  ]);
  const out = new Set(
    rows
      .map(({ path }) => path)
      .filter((path) => !left.has(path))
      .map((path) => placeUnderBase(draft.basePath, path)),
  );
  for (const path of paths) if (arrived.has(path)) out.add(path);
  return out;
}

/** Follows many addresses at once, so that each hop asks the database once for all of them. */
export async function proveAll(
  situation: Situation,
  draft: Draft,
  froms: readonly string[],
  rules: RuleIndex,
): Promise<Map<string, Proof>> {
  const proofs = new Map<string, Proof>();
  let waiting = froms.map((from) => {
    const steps = walkProof(splitAddress(from), rules);
    return { from, steps, step: steps.next() };
  });
  while (waiting.length > 0) {
    for (const { from, step } of waiting) if (step.done) proofs.set(from, step.value);
    waiting = waiting.filter(({ step }) => !step.done);
    const files = await findExistingFiles(
      situation,
      draft,
      waiting.flatMap(({ step }) => (step.done ? [] : step.value)),
    );
    for (const each of waiting) each.step = each.steps.next(files);
  }
  return proofs;
}
