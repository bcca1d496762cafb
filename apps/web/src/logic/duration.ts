/** Spans of time as people say them: two units at most, the smaller one left out where it says little. */
import { say } from './words.ts';
export function formatDuration(ms: number): string {
  const seconds = Math.max(0, Math.round(ms / 1000));
  if (seconds < 90) return `${seconds} s`;
  const minutes = Math.round(seconds / 60);
  if (minutes < 60) return say('duration.min', { minutes });
  const hours = Math.floor(minutes / 60);
  if (hours < 24) return minutes % 60 === 0 ? `${hours} h` : say('duration.hMin', { hours, minutes: minutes % 60 });
  const days = Math.floor(hours / 24);
  const rest = hours % 24;
  return say('duration.days', { days, rest: rest > 0 && days < 10 ? ` ${rest} h` : '' });
}

export const formatMoney = (cents: number, currency: string): string =>
  new Intl.NumberFormat('en-GB', { style: 'currency', currency, currencyDisplay: 'narrowSymbol' }).format(cents / 100);
