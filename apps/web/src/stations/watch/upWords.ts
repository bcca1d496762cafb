/** How it is told whether a site was there. */
import type { Up } from '@fastigium/contracts/api/watch';
import { duration } from '../../logic/duration.ts';
import { figure } from '../../logic/format.ts';

/** Never 100 % while something is missing. */
export function percentWords(percent: number): string {
  if (percent === 100) return '100 %';
  const digits = percent >= 99.9 ? 3 : percent >= 99 ? 2 : 1;
  return `${(Math.floor(percent * 10 ** digits) / 10 ** digits).toFixed(digits)} %`;
}

export const milliseconds = (ms: number): string =>
  ms < 9.95 ? `${ms.toFixed(1)} ms` : `${figure(Math.round(ms))} ms`;

export const minutesWords = (minutes: number): string => duration(Math.round(minutes * 60_000));

/** A percentage says little; minutes say what it means. */
export function promiseWords({ promised, downMinutes }: Pick<Up, 'promised' | 'downMinutes'>): string {
  if (!promised) return 'nothing: no plan is chosen under Address, Host';
  const allowed = `${promised.percent} %, which allows ${promised.minutes.toFixed(1)} minutes away in 30 days`;
  return downMinutes > promised.minutes ? `${allowed}: broken` : allowed;
}
