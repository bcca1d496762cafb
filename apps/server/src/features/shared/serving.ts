/** What a host is told beside a release's files, as a content: kept and sent by hash like any file. */
import { isRestricted, OPEN_TO_ALL, parseServing, serialiseServing, type Serving } from '@fastigium/core/access';
import type { Rule } from '@fastigium/core/redirects';
import type { Queries } from '../../db/database.ts';
import { hashSha256 } from '../../threads/tasks.ts';
import { readContent, type NewContent } from './contents.ts';

/** Undefined where there are no rules and everyone may visit. */
export function createServingContent(serving: Serving): NewContent | undefined {
  if (serving.rules.length === 0 && !isRestricted(serving.access)) return undefined;
  const bytes = Buffer.from(serialiseServing(serving));
  return { hash: hashSha256(bytes), bytes };
}

/** @param hash null: no rules, and everyone may visit */
export async function readServing(queries: Queries, hash: string | null): Promise<Serving> {
  return hash === null
    ? { rules: [], access: OPEN_TO_ALL }
    : parseServing((await readContent(queries, hash)).toString('utf8'));
}

export async function readRules(queries: Queries, hash: string | null): Promise<readonly Rule[]> {
  return (await readServing(queries, hash)).rules;
}
