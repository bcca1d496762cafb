/** How tellings are told. */
import type { Delivery, HookEvent } from '@fastigium/contracts/api/telling';
import { count, when } from '../../logic/format.ts';
import type { Mark } from '../../logic/marks.ts';

export const EVENT_WORDS: Readonly<Record<HookEvent | 'try', string>> = {
  'release-live': 'a release is live', 'release-failed': 'a release did not go out', 'found-otherwise': 'something is found otherwise', 'away': 'the site is away', 'back': 'the site is back', 'try': 'a try',
};

export function deliveryMark(delivery: Delivery | undefined): Mark {
  if (!delivery) return 'dashed';
  return ({ arrived: 'verdigris', waiting: 'ochre', 'given-up': 'madder' } as const)[delivery.state];
}

/** @param now by the world's clock */
export function deliveryWords({ event, state, attempts, nextAt, problem }: Delivery, now: Date): string {
  const what = EVENT_WORDS[event];
  if (state === 'arrived') return attempts > 1 ? `${what}: arrived at try ${attempts}` : `${what}: arrived`;
  if (state === 'given-up') return `${what}: given up after ${count(attempts, 'try', 'tries')}, ${problem ?? ''}`;
  return attempts === 0 ? `${what}: on its way` : `${what}: ${problem ?? 'on its way'}, again ${nextAt ? when(nextAt, now) : 'soon'}`;
}
