/** Patterns: read before they are kept, and never leading where nobody decided to go. */
import { decision as decided } from '@fastigium/contracts/messages/decision';
import { randomUUID } from 'node:crypto';
import type { DecisionRequest } from '@fastigium/contracts/decisions/request';
import { DomainError } from '@fastigium/contracts/errors';
import type { PatternRedirect } from '@fastigium/core/redirects';
import { readPattern, readTarget } from '@fastigium/core/redirects/pattern';
import { readTerm } from './term.ts';
import type { Prepared, Situation } from './situation.ts';

type PatternRequest = Extract<DecisionRequest, { kind: 'pattern' }>;

/** Throws a DomainError that says what is wrong with the pattern or its target. */
export function readRequest({
  text,
  status,
  target,
  ignoreCase,
  dropsQuery,
}: Omit<PatternRequest, 'kind' | 'id' | 'note' | 'until'>): PatternRedirect {
  const reading = readPattern(text.trim(), { ignoreCase });
  if (!reading.ok) throw new DomainError('pattern-unreadable', { pattern: text, why: reading.problem });
  const options = {
    ...(ignoreCase ? { ignoreCase: true as const } : {}),
    ...(dropsQuery ? { dropsQuery: true as const } : {}),
  };
  if (status === 410) return { text: text.trim(), status, target: undefined, ...options };
  const where = readTarget(target ?? '', reading.pattern);
  if (!where.ok) throw new DomainError('pattern-target', { target: target ?? '', why: where.problem });
  return { text: text.trim(), status, target: where.target.text, ...options };
}

export function preparePattern({ draft, deps }: Situation, { id, ...request }: PatternRequest): Prepared {
  if (id !== null && !draft.patterns.has(id)) throw new DomainError('not-found', { what: 'pattern' });
  const pattern = { ...readRequest(request), ...readTerm(request, { deps }) };
  const twin = [...draft.patterns].find(
    ([other, { text, ignoreCase }]) => other !== id && text === pattern.text && ignoreCase === pattern.ignoreCase,
  );
  if (twin) throw new DomainError('pattern-twice', { pattern: pattern.text });
  const made = id ?? randomUUID();
  return {
    decision: { kind: 'pattern', id: made, pattern },
    message:
      pattern.target === undefined
        ? decided('pattern-gone', { pattern: pattern.text })
        : decided('pattern-set', { pattern: pattern.text, to: pattern.target, status: pattern.status }),
    made,
  };
}

/** Several at once, behind those there are; one that is there already is not added again. */
export function numberPatterns(
  { draft, deps }: Situation,
  requests: readonly Omit<PatternRequest, 'kind' | 'id'>[],
): { readonly id: string; readonly pattern: PatternRedirect }[] {
  const there = new Set([...draft.patterns.values()].map(keyPattern));
  return requests.flatMap((request) => {
    const pattern = { ...readRequest(request), ...readTerm(request, { deps }) };
    if (there.has(keyPattern(pattern))) throw new DomainError('pattern-twice', { pattern: pattern.text });
    there.add(keyPattern(pattern));
    return [{ id: randomUUID(), pattern }];
  });
}

const keyPattern = ({ text, ignoreCase }: PatternRedirect) => `${ignoreCase ? 'i' : ''} ${text}`;

export function preparePatternRemoved({ draft }: Situation, id: string): Prepared {
  const pattern = draft.patterns.get(id);
  if (!pattern) throw new DomainError('not-found', { what: 'pattern' });
  return { decision: { kind: 'pattern-removed', id }, message: decided('pattern-removed', { pattern: pattern.text }) };
}

export function preparePatternsOrdered({ draft }: Situation, ids: readonly string[]): Prepared {
  if (
    ids.length !== draft.patterns.size ||
    new Set(ids).size !== ids.length ||
    ids.some((id) => !draft.patterns.has(id))
  )
    throw new DomainError('not-found', { what: 'orderOfPatterns' });
  return { decision: { kind: 'patterns-ordered', ids }, message: decided('patterns-ordered') };
}
