/** The spread as bars: how much of the time shown each resolver still gives the old answer. */
import type { SpreadView } from '@fastigium/contracts/api/address';
import { formatDuration } from '../../logic/duration.ts';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

export interface SpreadBar {
  readonly key: string;
  readonly name: string;
  readonly kind: 'old' | 'silent' | 'new';
  /** 0 to 1 of the time until the last old answer is gone. */
  readonly oldShare: number;
  readonly words: string;
  readonly detail: string;
}

/** A quarter of an hour at least, so that a few seconds do not look like the whole. */
const LEAST_SPAN_MS = 900_000;

const sayDetail = ({ answers }: SpreadView['resolvers'][number]): string => answers.map(speak).join('; ');

export function spreadBars({ authorityAnswers, authorityNewSince, resolvers }: SpreadView, nowMs: number): SpreadBar[] {
  const left = (until: string | null) => (until === null ? 0 : Math.max(0, Date.parse(until) - nowMs));
  const span = Math.max(LEAST_SPAN_MS, ...resolvers.map(({ oldUntil }) => left(oldUntil)));
  const authority: SpreadBar = !authorityAnswers
    ? {
        key: 'authority',
        name: say('spread.nameServers'),
        kind: 'silent',
        oldShare: 1,
        words: say('spread.noAnswer'),
        detail: '',
      }
    : {
        key: 'authority',
        name: say('spread.nameServers'),
        kind: authorityNewSince === null ? 'old' : 'new',
        oldShare: authorityNewSince === null ? 1 : 0,
        words: authorityNewSince === null ? say('spread.oldAnswer') : say('spread.new'),
        detail: '',
      };
  return [
    authority,
    ...resolvers.map((resolver): SpreadBar => {
      const rest = left(resolver.oldUntil);
      if (resolver.state === 'new' || (resolver.state === 'old' && rest === 0))
        return {
          key: resolver.address,
          name: resolver.resolver,
          kind: 'new',
          oldShare: 0,
          words: resolver.state === 'new' ? say('spread.new') : say('spread.runsOutNow'),
          detail: sayDetail(resolver),
        };
      if (resolver.state === 'silent')
        return {
          key: resolver.address,
          name: resolver.resolver,
          kind: 'silent',
          oldShare: rest / span,
          words: rest > 0 ? say('spread.silent', { rest: formatDuration(rest) }) : say('spread.doesNotAnswer'),
          detail: sayDetail(resolver),
        };
      return {
        key: resolver.address,
        name: resolver.resolver,
        kind: 'old',
        oldShare: rest / span,
        words: say('spread.oldFor', { rest: formatDuration(rest) }),
        detail: sayDetail(resolver),
      };
    }),
  ];
}
