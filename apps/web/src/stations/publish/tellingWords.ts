/** How tellings are told. */
import type { Delivery, Hook, HookEvent, HookKind } from '@fastigium/contracts/api/telling';
import { formatWhen } from '../../logic/format.ts';
import type { Mark } from '../../logic/marks.ts';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

export const EVENT_WORDS: Readonly<Record<HookEvent | 'try' | 'message', string>> = {
  'release-live': say('telling.aReleaseIsLive'),
  'release-failed': say('telling.aReleaseDidNotGo'),
  'found-otherwise': say('telling.somethingIsFoundOtherwise'),
  away: say('telling.theSiteIsAway'),
  back: say('telling.theSiteIsBack'),
  drifted: say('telling.theLiveHostGivesSomething'),
  spike: say('telling.aLostAddressIsAsked'),
  'date-near': say('telling.aCertificateNameOrSite'),
  try: say('telling.aTry'),
  message: say('telling.aMessage'),
};

export const KIND_CHOICES: readonly { readonly value: HookKind; readonly label: string }[] = [
  { value: 'webhook', label: say('telling.aProgram') },
  { value: 'index', label: say('telling.aSearchIndex') },
  { value: 'account', label: say('telling.anAccount') },
];

export const KIND_MEANING: Readonly<Record<HookKind, string>> = {
  webhook: say('telling.itIsToldWhatHappens'),
  index: say('telling.itIsToldWhichAddresses'),
  account: say('telling.itPostsAMessageWhen'),
};

/** @param all events there are */
export function sayTold({ kind, events }: Pick<Hook, 'kind' | 'events'>, all: number): string {
  if (kind === 'index') return say('telling.newChangedAndGoneAddresses');
  if (kind === 'account') return say('telling.messagesWhenYouSendOne');
  return events.length === all ? say('telling.everything') : events.map((event) => EVENT_WORDS[event]).join(', ');
}

export function chooseDeliveryMark(delivery: Delivery | undefined): Mark {
  if (!delivery) return 'dashed';
  return ({ arrived: 'verdigris', waiting: 'ochre', 'given-up': 'madder' } as const)[delivery.state];
}

/** @param now by the world's clock */
export function sayDelivery({ event, state, attempts, nextAt, problem }: Delivery, now: Date): string {
  const what = EVENT_WORDS[event];
  if (state === 'arrived')
    return attempts > 1 ? say('telling.arrivedAtTry', { what, attempts }) : say('telling.arrived', { what });
  if (state === 'given-up') return say('telling.givenUpAfterTries', { what, attempts, problem: speak(problem ?? '') });
  return attempts === 0
    ? say('telling.onItsWay', { what })
    : say('telling.again', {
        what,
        problem: problem === null ? say('telling.onItsWay2') : speak(problem),
        nextAt: nextAt ? formatWhen(nextAt, now) : say('telling.soon'),
      });
}
