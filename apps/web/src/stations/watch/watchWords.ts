/** How the days after are told. */
import type { LostAddress, UsedRule, Watch, WatchedDay } from '@fastigium/contracts/api/watch';
import type { Mark } from '../../logic/marks.ts';
import { say } from './words.ts';

type Fate = Exclude<keyof WatchedDay, 'day' | 'robots'>;

/** From the ground up, as the bars are stacked. */
export const FATES: readonly {
  readonly fate: Fate;
  readonly words: string;
  readonly colour: string;
  readonly hatched: boolean;
}[] = [
  { fate: 'found', words: say('watch.foundAPage'), colour: 'verdigris', hatched: false },
  { fate: 'redirected', words: say('watch.wereSentOn'), colour: 'lapis', hatched: false },
  { fate: 'gone', words: say('watch.wereToldItIsGone'), colour: 'stone5', hatched: false },
  { fate: 'lost', words: say('watch.foundNothing'), colour: 'madder', hatched: true },
  { fate: 'failed', words: say('watch.metAFailingHost'), colour: 'ochre', hatched: true },
];

export const STANDING: Readonly<Record<LostAddress['standing'], { readonly words: string; readonly mark: Mark }>> = {
  lost: { words: say('watch.findsNothing'), mark: 'madder' },
  settled: { words: say('watch.settledGoesOutWithThe'), mark: 'ochre' },
  answers: { words: say('watch.answersSince'), mark: 'verdigris' },
};

/** What the bars say, in a sentence. */
export function sayDays(days: readonly WatchedDay[]): string {
  const sum = (fate: Fate) => days.reduce((all, day) => all + day[fate], 0);
  const all = FATES.reduce((total, { fate }) => total + sum(fate), 0);
  if (all === 0) return say('watch.nobodyHasComeYet');
  const lost = sum('lost');
  return say('watch.requestsByPeopleInDays', { all, days: days.length, noLost: lost === 0, lost });
}

export const isOpen = (row: LostAddress): boolean => row.standing === 'lost' && !row.isApart;

/** Whole days since an instant; undefined for none. */
export function countDaysSince(instant: string | null, nowMs: number): number | undefined {
  return instant === null ? undefined : Math.floor((nowMs - new Date(instant).getTime()) / 86_400_000);
}

/** A rule nobody used for so long is worth a thought; common practice, no source. */
export const RETIRE_AFTER_DAYS = 90;

export function isWorthRetiring({ visits }: UsedRule, since: Watch['since'], nowMs: number): boolean {
  return visits === 0 && (countDaysSince(since, nowMs) ?? 0) >= RETIRE_AFTER_DAYS;
}

export function sayRuleStanding(rule: UsedRule, since: Watch['since'], nowMs: number): string {
  if (rule.visits > 0)
    return rule.addresses > 1 ? say('watch.addresses', { addresses: rule.addresses }) : say('watch.inUse');
  const watched = countDaysSince(since, nowMs) ?? 0;
  return isWorthRetiring(rule, since, nowMs)
    ? say('watch.nobodyInDaysWorthRetiring', { watched })
    : watched === 0
      ? say('watch.nobodyYet')
      : say('watch.nobodyInDays', { watched });
}
