import { DomainError } from '@fastigium/contracts/errors';
import type { RuleTerm } from '@fastigium/core/redirects';
import { readToday } from '../../shared/today.ts';
import type { Situation } from './situation.ts';

/** A day that is over would end the rule before it begins. */
export function readTerm(
  { note, until }: { note?: string | undefined; until?: string | undefined },
  { deps }: Pick<Situation, 'deps'>,
): RuleTerm {
  if (until !== undefined && until < readToday(deps)) throw new DomainError('day-over', { day: until });
  return { ...(note ? { note } : {}), ...(until === undefined ? {} : { until }) };
}
