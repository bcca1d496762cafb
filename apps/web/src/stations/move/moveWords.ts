/** How the steps of the move are told, and where each is worked on. */
import type { MoveStepView } from '@fastigium/contracts/api/move';
import { formatWhen } from '../../logic/format.ts';
import type { Mark } from '../../logic/marks.ts';
import { say } from './words.ts';

export const STATE_MARKS: Readonly<Record<MoveStepView['state'], Mark>> = {
  done: 'verdigris',
  now: 'ochre',
  waits: 'dashed',
  late: 'madder',
  unneeded: 'dashed',
};

export const STEP_WORDS: Readonly<Record<MoveStepView['step'], string>> = {
  snags: say('move.stepSnags'),
  'old-addresses': say('move.stepOldAddresses'),
  published: say('move.stepPublished'),
  domain: say('move.stepDomain'),
  'ttl-lowered': say('move.stepTtlLowered'),
  records: say('move.stepRecords'),
  spread: say('move.stepSpread'),
  certificate: say('move.stepCertificate'),
  'own-name': say('move.stepOwnName'),
  watched: say('move.stepWatched'),
  'old-host': say('move.stepOldHost'),
  'ttl-raised': say('move.stepTtlRaised'),
};

interface Where {
  readonly name: string;
  readonly query?: Readonly<Record<string, string>>;
}

const WHERE: Readonly<Record<MoveStepView['step'], Where>> = {
  snags: { name: 'survey' },
  'old-addresses': { name: 'redirects' },
  published: { name: 'publish' },
  domain: { name: 'address' },
  'ttl-lowered': { name: 'address' },
  records: { name: 'address' },
  spread: { name: 'address' },
  certificate: { name: 'address' },
  'own-name': { name: 'address' },
  watched: { name: 'watch' },
  'old-host': { name: 'watch', query: { show: 'host' } },
  'ttl-raised': { name: 'address' },
};
export const findStation = (step: MoveStepView['step']): Where => WHERE[step];

/** Of a step that is over or not needed no time is said. */
export function sayTime({ state, from, by }: Pick<MoveStepView, 'state' | 'from' | 'by'>, now: Date): string {
  if (state === 'done' || state === 'unneeded') return '';
  if (by !== null)
    return Date.parse(by) < now.getTime()
      ? say('move.wasDue', { by: formatWhen(by, now) })
      : say('move.by', { by: formatWhen(by, now) });
  if (from !== null && Date.parse(from) > now.getTime()) return say('move.from', { from: formatWhen(from, now) });
  return state === 'now' ? say('move.isNow') : '';
}
