/** Figures and times as people read them. */
import { say } from './words.ts';

const number = new Intl.NumberFormat('en-GB');

export function count(n: number, noun: string, plural = `${noun}s`): string {
  return `${number.format(n)} ${n === 1 ? noun : plural}`;
}

export const formatFigure = (n: number): string => number.format(n);

const lists = new Intl.ListFormat('en-GB', { type: 'conjunction' });
/** `a, b and c` (ECMA-402, section 13). */
export const formatList = (parts: readonly string[]): string => lists.format(parts);

/** Powers of ten, as IEC 80000-13 keeps kB for 1000 bytes. */
export function formatSize(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  const units = ['kB', 'MB', 'GB', 'TB'] as const;
  let value = bytes / 1000;
  let unit = 0;
  while (value >= 999.5 && unit < units.length - 1) {
    value /= 1000;
    unit += 1;
  }
  return `${value < 9.95 ? value.toFixed(1) : Math.round(value)} ${units[unit] ?? ''}`;
}

const time = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });
const weekday = new Intl.DateTimeFormat('en-GB', { weekday: 'short', hour: '2-digit', minute: '2-digit' });
const date = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });

/** `today 14:05`, `Tue 14:05` within the week, `3 Nov, 14:05` before that. */
export function formatWhen(instant: string, now: Date): string {
  const then = new Date(instant);
  if (then.toDateString() === now.toDateString()) return say('format.today', { then: time.format(then) });
  const days = (now.getTime() - then.getTime()) / 86_400_000;
  return (days < 6 ? weekday : date).format(then);
}

const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' });

/** A day of the calendar, `2027-03-31`, in words: it has no time and no zone. */
export const formatDay = (isoDay: string): string =>
  new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone: 'UTC' }).format(
    new Date(`${isoDay}T00:00:00Z`),
  );

/** `25 Dec`, in UTC as days are counted. */
export const readDay = (instant: string): string => day.format(new Date(instant));

/** Whole percent; never 100 while something is missing, never 0 while something is there. */
export function reckonPercent(part: number, whole: number): number {
  if (whole === 0) return 0;
  const exact = (part / whole) * 100;
  if (part < whole && exact > 99) return 99;
  if (part > 0 && exact < 1) return 1;
  return Math.round(exact);
}

/** `37%`; what is there and less than one of a hundred is said so, and what is nearly all, too. */
export function formatShare(part: number, whole: number): string {
  const exact = whole === 0 ? 0 : (part / whole) * 100;
  if (part > 0 && exact < 1) return say('format.lessThan', { percent: 1 });
  if (part < whole && exact > 99) return say('format.moreThan', { percent: 99 });
  return `${Math.round(exact)}%`;
}
