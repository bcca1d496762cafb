/** Times as they are set and told. */
import type { SetTime } from '@fastigium/contracts/api/setTime';

/** What fields for a day and a time hold, by this browser's clock. */
export function splitLocalTime(at: Date): { readonly date: string; readonly time: string } {
  const two = (n: number) => String(n).padStart(2, '0');
  return {
    date: `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`,
    time: `${two(at.getHours())}:${two(at.getMinutes())}`,
  };
}

/** `Fri 27 Nov, 06:00 (Europe/London)`, by the clock of whoever set it. */
export function setTimeWords({ at, zone }: Pick<SetTime, 'at' | 'zone'>): string {
  const words = new Intl.DateTimeFormat('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    timeZone: zone,
  }).format(new Date(at));
  return `${words.replace(/^(\w+), /, '$1 ')} (${zone})`;
}
