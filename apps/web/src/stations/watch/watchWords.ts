/** How the days after are told. */
import type { LostAddress, UsedRule, Watch, WatchedDay } from '@fastigium/contracts/api/watch';
import { count, figure } from '../../logic/format.ts';
import type { Mark } from '../../logic/marks.ts';

type Fate = Exclude<keyof WatchedDay, 'day' | 'robots'>;

/** From the ground up, as the bars are stacked. */
export const FATES: readonly {
  readonly fate: Fate;
  readonly words: string;
  readonly colour: string;
  readonly hatched: boolean;
}[] = [
  { fate: 'found', words: 'found a page', colour: 'verdigris', hatched: false },
  { fate: 'redirected', words: 'were sent on', colour: 'lapis', hatched: false },
  { fate: 'gone', words: 'were told it is gone', colour: 'stone5', hatched: false },
  { fate: 'lost', words: 'found nothing', colour: 'madder', hatched: true },
  { fate: 'failed', words: 'met a failing host', colour: 'ochre', hatched: true },
];

export const STANDING: Readonly<Record<LostAddress['standing'], { readonly words: string; readonly mark: Mark }>> = {
  lost: { words: 'finds nothing', mark: 'madder' },
  settled: { words: 'settled, goes out with the next release', mark: 'ochre' },
  answers: { words: 'answers since', mark: 'verdigris' },
};

/** What the bars say, in a sentence. */
export function daysWords(days: readonly WatchedDay[]): string {
  const sum = (fate: Fate) => days.reduce((all, day) => all + day[fate], 0);
  const all = FATES.reduce((total, { fate }) => total + sum(fate), 0);
  if (all === 0) return 'Nobody has come yet';
  const lost = sum('lost');
  return `${count(all, 'request')} by people in ${days.length} days, ${lost === 0 ? 'none of them found nothing' : `${figure(lost)} found nothing`}`;
}

export const isOpen = (row: LostAddress): boolean => row.standing === 'lost' && !row.isApart;

/** Whole days since an instant; undefined for none. */
export function daysSince(instant: string | null, nowMs: number): number | undefined {
  return instant === null ? undefined : Math.floor((nowMs - new Date(instant).getTime()) / 86_400_000);
}

/** A rule nobody used for so long is worth a thought; common practice, no source. */
export const RETIRE_AFTER_DAYS = 90;

export function isWorthRetiring({ visits }: UsedRule, since: Watch['since'], nowMs: number): boolean {
  return visits === 0 && (daysSince(since, nowMs) ?? 0) >= RETIRE_AFTER_DAYS;
}

export function ruleStanding(rule: UsedRule, since: Watch['since'], nowMs: number): string {
  if (rule.visits > 0) return rule.addresses > 1 ? `${figure(rule.addresses)} addresses` : 'in use';
  const watched = daysSince(since, nowMs) ?? 0;
  return isWorthRetiring(rule, since, nowMs)
    ? `nobody in ${count(watched, 'day')}, worth retiring`
    : watched === 0
      ? 'nobody yet'
      : `nobody in ${count(watched, 'day')}`;
}
