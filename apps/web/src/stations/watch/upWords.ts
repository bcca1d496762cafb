/** How it is told whether a site was there. */
import type { Up } from '@fastigium/contracts/api/watch';
import { formatDuration } from '../../logic/duration.ts';
import { say } from './words.ts';

/** Never 100 % while something is missing. */
export function sayPercent(percent: number): string {
  if (percent === 100) return '100 %';
  const digits = percent >= 99.9 ? 3 : percent >= 99 ? 2 : 1;
  return `${(Math.floor(percent * 10 ** digits) / 10 ** digits).toFixed(digits)} %`;
}

export const sayMilliseconds = (ms: number): string =>
  ms < 9.95 ? say('up.ms', { ms: ms.toFixed(1) }) : say('up.ms2', { ms: Math.round(ms) });

export const sayMinutes = (minutes: number): string => formatDuration(Math.round(minutes * 60_000));

/** A percentage says little; minutes say what it means. */
export function promiseWords({ promised, downMinutes }: Pick<Up, 'promised' | 'downMinutes'>): string {
  if (!promised) return say('up.nothingNoPlanIsChosen');
  const allowed = say('up.whichAllowsMinutesAwayIn', {
    percent: promised.percent,
    minutes: promised.minutes.toFixed(1),
  });
  return downMinutes > promised.minutes ? say('up.broken', { allowed }) : allowed;
}
