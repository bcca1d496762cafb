/** Holding removals, so that no sweep takes them. */
import { decision as decided } from '@fastigium/contracts/messages/decision';
import type { DecisionRequest } from '@fastigium/contracts/decisions/request';
import { DomainError } from '@fastigium/contracts/errors';
import { requireRemoval } from './putBack.ts';
import type { Prepared, Situation } from './situation.ts';

type Of<K extends DecisionRequest['kind']> = Extract<DecisionRequest, { kind: K }>;

export function prepareHeld(situation: Situation, { of: removals, reason }: Of<'hold-removals'>): Prepared {
  for (const each of removals) requireRemoval(situation, each);
  return {
    decision: { kind: 'removals-held', of: removals, reason },
    message: decided('held', { count: removals.length, reason }),
  };
}

export function prepareFreed(situation: Situation, { of: removals }: Of<'free-removals'>): Prepared {
  if (!removals.some((each) => requireRemoval(situation, each).held)) throw new DomainError('not-held');
  return { decision: { kind: 'removals-freed', of: removals }, message: decided('freed', { count: removals.length }) };
}
