/**
 * The day of the move: the steps of this site in their order, each with when it has to be and what was measured of it.
 * Nothing is ticked off by hand. Times follow from the records' TTLs (RFC 1035 section 3.2.1); the order is common
 * practice, no source.
 */
import { LOW_TTL_SECONDS, planChange } from '../dns/index.ts';
import { measured, type Measured } from './measured.ts';

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
  readonly measured: Measured;
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
  const step = (name: MoveStepName, isDone: boolean, found: Measured, more: Partial<Reckoned> = {}): Reckoned => ({
    step: name,
    isDone,
    measured: found,
    fromMs: undefined,
    byMs: undefined,
    ...more,
  });
  const open = oldAddresses.all - oldAddresses.settled;
  const areRecordsRight = recordsToChange === 0;
  const plan =
    ttlSeconds === undefined || changeAtMs === undefined
      ? undefined
      : planChange({ nowMs, changeAtMs: Math.max(changeAtMs, nowMs), ttlSeconds });
  const isEveryone = everyoneByMs !== undefined && everyoneByMs <= nowMs;
  return [
    step('snags', mustFix === 0, mustFix === 0 ? measured('nothing-to-fix') : measured('to-fix', { count: mustFix })),
    step(
      'old-addresses',
      open === 0,
      oldAddresses.all === 0 ? measured('no-old-addresses') : measured('settled', oldAddresses),
    ),
    step(
      'published',
      live !== undefined && live.verdict !== undefined && live.verdict !== 'wrong',
      live === undefined
        ? measured('not-published')
        : measured('published', { release: live.number, verdict: readVerdict(live.verdict) }),
    ),
    step('domain', domain !== undefined, domain ? measured('domain', { name: domain.main }) : measured('no-domain')),
    step(
      'ttl-lowered',
      ttlSeconds !== undefined && ttlSeconds <= LOW_TTL_SECONDS,
      ttlSeconds === undefined ? measured('no-answer') : measured('kept', { time: ttlSeconds }),
      {
        byMs: plan?.lowerByMs,
        isUnneeded: areRecordsRight || (recordsToChange !== undefined && ttlSeconds === undefined),
      },
    ),
    step(
      'records',
      areRecordsRight,
      recordsToChange === undefined
        ? measured('records-not-looked-at')
        : areRecordsRight
          ? measured('records-as-needed')
          : measured('records-to-change', { count: recordsToChange }),
      { fromMs: changeAtMs, ...(plan ? { byMs: undefined } : {}) },
    ),
    step(
      'spread',
      areRecordsRight && isEveryone,
      authorityNewSinceMs === undefined
        ? measured('servers-give-old')
        : measured('resolvers', { fresh: resolvers.new, all: resolvers.all }),
      { byMs: undefined, fromMs: areRecordsRight ? everyoneByMs : plan?.keepOldUntilMs },
    ),
    step(
      'certificate',
      certificate === 'served' && domain?.forceHttps === true,
      certificate === 'served'
        ? measured('certificate-served', { https: domain?.forceHttps ? 'yes' : 'no' })
        : measured('certificate', { state: certificate }),
    ),
    step(
      'own-name',
      answersUnderName === true,
      measured(answersUnderName === undefined ? 'not-asked' : answersUnderName ? 'answers-so' : 'answers-not-so'),
    ),
    step(
      'watched',
      live !== undefined &&
        isEveryone &&
        watch.readAtMs !== undefined &&
        watch.readAtMs >= (everyoneByMs ?? Infinity) &&
        watch.lost === 0,
      watch.lost > 0
        ? measured('lost', { count: watch.lost })
        : measured(watch.readAtMs === undefined ? 'log-not-read' : 'nothing-lost'),
      { fromMs: everyoneByMs },
    ),
    step(
      'old-host',
      areRecordsRight && isEveryone && answersUnderName === true,
      everyoneByMs === undefined
        ? measured('not-before-last-answer')
        : measured(isEveryone ? 'last-answer-over' : 'answers-still-kept'),
      { fromMs: everyoneByMs ?? plan?.keepOldUntilMs },
    ),
    step(
      'ttl-raised',
      areRecordsRight && isEveryone && ttlSeconds !== undefined && ttlSeconds >= ORDINARY_TTL_SECONDS,
      ttlSeconds === undefined ? measured('no-answer') : measured('kept', { time: ttlSeconds }),
      { fromMs: everyoneByMs },
    ),
  ];
}

function readVerdict(verdict: 'right' | 'noted' | 'wrong' | undefined): 'unasked' | 'right' | 'wrong' {
  return verdict === undefined ? 'unasked' : verdict === 'wrong' ? 'wrong' : 'right';
}
