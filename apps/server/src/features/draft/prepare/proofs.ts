/** What visitors of a draft that is being decided on would meet, asked of the database a hop at a time. */
import { splitAddress } from '@fastigium/core/address';
import { proofSteps, type Proof, type RuleIndex } from '@fastigium/core/redirects';
import { insideBase, publishedPath, underBase } from '@fastigium/core/release';
import { withRemoved, type Draft } from '@fastigium/core/site';
import { importedOnly, pagesById } from '../pageFiles.ts';
import type { Situation } from './situation.ts';

/** Which of some paths are published by a draft: imported files, less those that moved away, and those that moved there. */
export async function existingFiles(
  { tx, importId }: Situation,
  draft: Draft,
  paths: readonly string[],
): Promise<Set<string>> {
  const moved = await pagesById(tx, importId, draft, draft.addresses.keys());
  const away = await pagesById(tx, importId, withRemoved(draft), draft.removed.keys());
  const left = new Set([
    ...importedOnly(draft, [...moved.values(), ...away.values()]).map(({ sourcePath }) => sourcePath),
    ...draft.removedFiles.keys(),
  ]);
  const arrived = new Set([...moved.values()].map((page) => publishedPath(draft, page)));
  const inside = paths.flatMap((path) => insideBase(draft.basePath, path) ?? []);
  const rows = await tx.many<{ path: string }>('select path from source_file where import_id = $1 and path = any($2)', [
    importId,
    inside,
  ]);
  const out = new Set(
    rows
      .map(({ path }) => path)
      .filter((path) => !left.has(path))
      .map((path) => underBase(draft.basePath, path)),
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
    const steps = proofSteps(splitAddress(from), rules);
    return { from, steps, step: steps.next() };
  });
  while (waiting.length > 0) {
    for (const { from, step } of waiting) if (step.done) proofs.set(from, step.value);
    waiting = waiting.filter(({ step }) => !step.done);
    const files = await existingFiles(
      situation,
      draft,
      waiting.flatMap(({ step }) => (step.done ? [] : step.value)),
    );
    for (const each of waiting) each.step = each.steps.next(files);
  }
  return proofs;
}
