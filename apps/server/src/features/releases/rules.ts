/** A release's rules as a content: kept and sent by hash like any file. */
import { parseRules, serialiseRules, type Rule } from '@fastigium/core/redirects';
import type { Queries } from '../../db/database.ts';
import { sha256 } from '../../threads/tasks.ts';
import { contentBytes, type NewContent } from '../contents.ts';

/** Undefined when there are none. */
export function rulesContent(rules: readonly Rule[]): NewContent | undefined {
  if (rules.length === 0) return undefined;
  const bytes = Buffer.from(serialiseRules(rules));
  return { hash: sha256(bytes), bytes };
}

export async function rulesOf(queries: Queries, rulesHash: string | null): Promise<Rule[]> {
  return rulesHash === null ? [] : parseRules((await contentBytes(queries, rulesHash)).toString('utf8'));
}
