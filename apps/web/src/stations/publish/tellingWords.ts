/** How tellings are told. */
import type { Delivery, Hook, HookEvent, HookKind } from '@fastigium/contracts/api/telling';
import { count, when } from '../../logic/format.ts';
import type { Mark } from '../../logic/marks.ts';

export const EVENT_WORDS: Readonly<Record<HookEvent | 'try' | 'message', string>> = {
  'release-live': 'a release is live',
  'release-failed': 'a release did not go out',
  'found-otherwise': 'something is found otherwise',
  away: 'the site is away',
  back: 'the site is back',
  drifted: 'the live host gives something else',
  spike: 'a lost address is asked for far more',
  'date-near': 'a certificate, name or site runs out soon',
  try: 'a try',
  message: 'a message',
};

export const KIND_CHOICES: readonly { readonly value: HookKind; readonly label: string }[] = [
  { value: 'webhook', label: 'A program' },
  { value: 'index', label: 'A search index' },
  { value: 'account', label: 'An account' },
];

export const KIND_MEANING: Readonly<Record<HookKind, string>> = {
  webhook: 'It is told what happens, as JSON, signed.',
  index:
    'It is told which addresses are new, changed and gone, with each release. A small key file goes out with the next release, so that it believes us.',
  account: 'It posts a message when you send one; what to say is drafted from the release.',
};

/** @param all events there are */
export function toldWords({ kind, events }: Pick<Hook, 'kind' | 'events'>, all: number): string {
  if (kind === 'index') return 'new, changed and gone addresses';
  if (kind === 'account') return 'messages, when you send one';
  return events.length === all ? 'everything' : events.map((event) => EVENT_WORDS[event]).join(', ');
}

export function deliveryMark(delivery: Delivery | undefined): Mark {
  if (!delivery) return 'dashed';
  return ({ arrived: 'verdigris', waiting: 'ochre', 'given-up': 'madder' } as const)[delivery.state];
}

/** @param now by the world's clock */
export function deliveryWords({ event, state, attempts, nextAt, problem }: Delivery, now: Date): string {
  const what = EVENT_WORDS[event];
  if (state === 'arrived') return attempts > 1 ? `${what}: arrived at try ${attempts}` : `${what}: arrived`;
  if (state === 'given-up') return `${what}: given up after ${count(attempts, 'try', 'tries')}, ${problem ?? ''}`;
  return attempts === 0
    ? `${what}: on its way`
    : `${what}: ${problem ?? 'on its way'}, again ${nextAt ? when(nextAt, now) : 'soon'}`;
}
