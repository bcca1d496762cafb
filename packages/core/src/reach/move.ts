/**
 * The day of the move: the steps of this site in their order, each with when it has to be and what was measured of it.
 * Nothing is ticked off by hand. Times follow from the records' TTLs (RFC 1035 section 3.2.1); the order is common
 * practice, no source.
 */
import { LOW_TTL_SECONDS, planChange } from '../dns/index.ts';

/** What was measured; undefined where it was not, or there is nothing to measure. Times in milliseconds since 1970. */
export interface MoveFacts {
  readonly mustFix: number;
  readonly oldAddresses: { readonly all: number; readonly settled: number };
  readonly live: { readonly number: number; readonly verdict: 'right' | 'noted' | 'wrong' | undefined } | undefined;
  readonly domain: { readonly main: string; readonly forceHttps: boolean } | undefined;
  /** The longest time a present answer may be kept. */
  readonly ttlSeconds: number | undefined;
  /** Records that differ from what is needed; undefined while nobody looked. */
  readonly recordsToChange: number | undefined;
  readonly authorityNewSinceMs: number | undefined;
  readonly everyoneByMs: number | undefined;
  readonly resolvers: { readonly all: number; readonly new: number };
  readonly certificate: 'none' | 'waiting' | 'ordering' | 'served' | 'wrong' | 'expired';
  /** The host answers under the site's own name. */
  readonly answersUnderName: boolean | undefined;
  readonly watch: { readonly readAtMs: number | undefined; readonly lost: number };
  /** When visitors are to move over, where somebody chose. */
  readonly changeAtMs: number | undefined;
}

export type MoveState = 'done' | 'now' | 'waits' | 'late' | 'unneeded';
export const MOVE_STEPS = [
  'snags',
  'old-addresses',
  'published',
  'domain',
  'ttl-lowered',
  'records',
  'spread',
  'certificate',
  'own-name',
  'watched',
  'old-host',
  'ttl-raised',
] as const;
export type MoveStepName = (typeof MOVE_STEPS)[number];

export interface MoveStep {
  readonly step: MoveStepName;
  readonly state: MoveState;
  readonly words: string;
  /** What was measured, in words. */
  readonly measured: string;
  /** Not before, and not after. */
  readonly fromMs: number | undefined;
  readonly byMs: number | undefined;
}

/** Common practice, no source. */
const ORDINARY_TTL_SECONDS = 3600;

type Reckoned = Omit<MoveStep, 'state'> & { readonly isDone: boolean; readonly isUnneeded?: boolean };

/** The first step that is not done and needs no waiting is the one to do now. */
export function moveSteps(facts: MoveFacts, nowMs: number): MoveStep[] {
  let isFirst = true;
  return reckon(facts, nowMs).map(({ isDone, isUnneeded = false, ...step }): MoveStep => {
    if (isUnneeded) return { ...step, state: 'unneeded' };
    if (isDone) return { ...step, state: 'done' };
    const isLate = step.byMs !== undefined && step.byMs < nowMs;
    const state = !isFirst
      ? 'waits'
      : step.fromMs !== undefined && step.fromMs > nowMs
        ? 'waits'
        : isLate
          ? 'late'
          : 'now';
    isFirst = false;
    return { ...step, state };
  });
}

function reckon(facts: MoveFacts, nowMs: number): Reckoned[] {
  const {
    mustFix,
    oldAddresses,
    live,
    domain,
    ttlSeconds,
    recordsToChange,
    authorityNewSinceMs,
    everyoneByMs,
    resolvers,
    certificate,
    answersUnderName,
    watch,
    changeAtMs,
  } = facts;
  const step = (
    name: MoveStepName,
    words: string,
    isDone: boolean,
    measured: string,
    more: Partial<Reckoned> = {},
  ): Reckoned => ({ step: name, words, isDone, measured, fromMs: undefined, byMs: undefined, ...more });
  const open = oldAddresses.all - oldAddresses.settled;
  const areRecordsRight = recordsToChange === 0;
  const plan =
    ttlSeconds === undefined || changeAtMs === undefined
      ? undefined
      : planChange({ nowMs, changeAtMs: Math.max(changeAtMs, nowMs), ttlSeconds });
  const isEveryone = everyoneByMs !== undefined && everyoneByMs <= nowMs;
  return [
    step(
      'snags',
      'Nothing must be fixed',
      mustFix === 0,
      mustFix === 0 ? 'the checks found nothing that holds a release' : `${mustFix} must be fixed`,
    ),
    step(
      'old-addresses',
      'Every old address is settled',
      open === 0,
      oldAddresses.all === 0 ? 'none is known' : `${oldAddresses.settled} of ${oldAddresses.all}`,
    ),
    step(
      'published',
      'The site is live at the host',
      live !== undefined && live.verdict !== undefined && live.verdict !== 'wrong',
      live === undefined
        ? 'not published yet'
        : `release ${live.number}, ${live.verdict === undefined ? 'not asked from outside yet' : live.verdict === 'wrong' ? 'found otherwise than published' : 'found as published'}`,
    ),
    step('domain', 'The domain is known here', domain !== undefined, domain?.main ?? 'none yet'),
    step(
      'ttl-lowered',
      `Answers of name servers are kept ${LOW_TTL_SECONDS / 60} minutes at most`,
      ttlSeconds !== undefined && ttlSeconds <= LOW_TTL_SECONDS,
      ttlSeconds === undefined ? 'no answer yet' : `kept ${seconds(ttlSeconds)}`,
      {
        byMs: plan?.lowerByMs,
        isUnneeded: areRecordsRight || (recordsToChange !== undefined && ttlSeconds === undefined),
      },
    ),
    step(
      'records',
      'The records lead to the host',
      areRecordsRight,
      recordsToChange === undefined
        ? 'not looked at yet'
        : areRecordsRight
          ? 'as needed'
          : `${recordsToChange} to change`,
      { fromMs: changeAtMs, ...(plan ? { byMs: undefined } : {}) },
    ),
    step(
      'spread',
      'Everyone gets the new answer',
      areRecordsRight && isEveryone,
      authorityNewSinceMs === undefined
        ? 'the name servers give the old one'
        : `${resolvers.new} of ${resolvers.all} resolvers`,
      { byMs: undefined, fromMs: areRecordsRight ? everyoneByMs : plan?.keepOldUntilMs },
    ),
    step(
      'certificate',
      'The certificate is served, and http goes to https',
      certificate === 'served' && domain?.forceHttps === true,
      certificate === 'served'
        ? domain?.forceHttps
          ? 'served, http goes to https'
          : 'served; http does not go to https yet'
        : `certificate ${certificate === 'none' ? 'not there yet' : certificate}`,
    ),
    step(
      'own-name',
      'The site answers under its own name',
      answersUnderName === true,
      answersUnderName === undefined ? 'not asked yet' : answersUnderName ? 'it does' : 'it does not yet',
    ),
    step(
      'watched',
      'Visitors of the first hours find everything',
      live !== undefined &&
        isEveryone &&
        watch.readAtMs !== undefined &&
        watch.readAtMs >= (everyoneByMs ?? Infinity) &&
        watch.lost === 0,
      watch.lost > 0
        ? `${watch.lost} addresses find nothing`
        : watch.readAtMs === undefined
          ? 'the access log was not read yet'
          : 'nothing lost so far',
      { fromMs: everyoneByMs },
    ),
    step(
      'old-host',
      'The old host may be switched off',
      areRecordsRight && isEveryone && answersUnderName === true,
      everyoneByMs === undefined
        ? 'not before the last old answer has run out'
        : isEveryone
          ? 'the last old answer has run out'
          : 'old answers are still kept somewhere',
      { fromMs: everyoneByMs ?? plan?.keepOldUntilMs },
    ),
    step(
      'ttl-raised',
      'Answers may be kept for an hour or longer again',
      areRecordsRight && isEveryone && ttlSeconds !== undefined && ttlSeconds >= ORDINARY_TTL_SECONDS,
      ttlSeconds === undefined ? 'no answer yet' : `kept ${seconds(ttlSeconds)}`,
      { fromMs: everyoneByMs },
    ),
  ];
}

function seconds(count: number): string {
  if (count % 86_400 === 0) return `${count / 86_400} ${count === 86_400 ? 'day' : 'days'}`;
  if (count % 3600 === 0) return `${count / 3600} ${count === 3600 ? 'hour' : 'hours'}`;
  return count % 60 === 0 ? `${count / 60} min` : `${count} s`;
}
