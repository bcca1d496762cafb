/** What somebody should know of a live site today, said from facts; the worst first. */
import type { Part } from '../messages/index.ts';
import { countDaysLeft, formatIsoDay } from '../reach/index.ts';

import type { FindingMessage } from '../inspection/index.ts';
import { alert, type AlertMessage } from './messages.ts';

/** What is known; undefined where nothing is, and then nothing is said. Times in milliseconds since 1970. */
export interface AlertFacts {
  readonly away?: { readonly problem: Part } | undefined;
  /** The live host gives something else than the release. */
  readonly drift?:
    | {
        readonly sinceMs: number;
        /** The worst comes first. */
        readonly findings: readonly [DriftFinding, ...DriftFinding[]];
      }
    | undefined;
  /** Of each domain. */
  readonly certificates?:
    readonly { readonly name: string; readonly notAfterMs: number; readonly renewsItself: boolean }[] | undefined;
  readonly registrations?: readonly { readonly name: string; readonly expiresAtMs: number }[] | undefined;
  /** `2027-03-31` and the end of that day. */
  readonly comesDown?: { readonly day: string; readonly endsAtMs: number } | undefined;
  /** Lost addresses asked for today far more than usual. */
  readonly spikes?: readonly string[] | undefined;
  readonly logProblem?: Part | undefined;
}

interface DriftFinding {
  readonly address: string;
  readonly message: FindingMessage;
}

export type AlertKind = 'away' | 'drift' | 'certificate' | 'registration' | 'comes-down' | 'spike' | 'log';

export interface Alert {
  readonly kind: AlertKind;
  /** Which one, so that the same is not told twice. */
  readonly of: string;
  readonly weight: 'wrong' | 'caution';
  readonly message: AlertMessage;
}

/** Common practice, no source: a certificate that renews itself should have done so by then; a name is renewed within a month. */
export const CERTIFICATE_DAYS = 14;
export const REGISTRATION_DAYS = 30;
export const COMES_DOWN_DAYS = 7;

export function deriveAlerts(facts: AlertFacts, nowMs: number): Alert[] {
  const alerts: Alert[] = [];
  const { away, drift, certificates = [], registrations = [], comesDown, spikes = [], logProblem } = facts;
  if (away) alerts.push({ kind: 'away', of: '', weight: 'wrong', message: alert('away', { problem: away.problem }) });
  if (drift)
    alerts.push({
      kind: 'drift',
      of: String(drift.sinceMs),
      weight: 'wrong',
      message: alert('drift', {
        since: formatIsoDay(drift.sinceMs),
        address: drift.findings[0].address,
        finding: drift.findings[0].message,
        more: drift.findings.length - 1,
      }),
    });
  for (const certificate of certificates) {
    const left = countDaysLeft(certificate.notAfterMs, nowMs);
    if (left < CERTIFICATE_DAYS)
      alerts.push({
        kind: 'certificate',
        of: `${certificate.name} ${certificate.notAfterMs}`,
        weight: left <= 3 ? 'wrong' : 'caution',
        message:
          left <= 0
            ? alert('certificate-over', { name: certificate.name })
            : alert('certificate-ends', {
                name: certificate.name,
                day: formatIsoDay(certificate.notAfterMs),
                renewsItself: certificate.renewsItself ? 'yes' : 'no',
              }),
      });
  }
  for (const registration of registrations) {
    const left = countDaysLeft(registration.expiresAtMs, nowMs);
    if (left < REGISTRATION_DAYS)
      alerts.push({
        kind: 'registration',
        of: `${registration.name} ${registration.expiresAtMs}`,
        weight: left <= 7 ? 'wrong' : 'caution',
        message:
          left <= 0
            ? alert('registration-over', { name: registration.name })
            : alert('registration-ends', { name: registration.name, day: formatIsoDay(registration.expiresAtMs) }),
      });
  }
  if (comesDown) {
    const left = countDaysLeft(comesDown.endsAtMs, nowMs);
    if (left <= 0)
      alerts.push({
        kind: 'comes-down',
        of: `${comesDown.day} over`,
        weight: 'caution',
        message: alert('came-down', { day: comesDown.day }),
      });
    else if (left <= COMES_DOWN_DAYS)
      alerts.push({
        kind: 'comes-down',
        of: comesDown.day,
        weight: 'caution',
        message: alert('comes-down', { day: comesDown.day }),
      });
  }
  const [first] = spikes;
  if (first !== undefined)
    alerts.push({
      kind: 'spike',
      of: first,
      weight: 'caution',
      message: alert('spike', { address: first, more: spikes.length - 1 }),
    });
  if (logProblem !== undefined)
    alerts.push({ kind: 'log', of: '', weight: 'caution', message: alert('log', { problem: logProblem }) });
  return alerts.sort((a, b) => Number(b.weight === 'wrong') - Number(a.weight === 'wrong'));
}
