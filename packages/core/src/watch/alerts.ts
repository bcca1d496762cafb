/** What somebody should know of a live site today, said from facts; the worst first. */
import { day, daysLeft } from '../reach/index.ts';

/** What is known; undefined where nothing is, and then nothing is said. Times in milliseconds since 1970. */
export interface AlertFacts {
  readonly away?: { readonly problem: string } | undefined;
  /** The live host gives something else than the release. */
  readonly drift?:
    { readonly sinceMs: number; readonly addresses: readonly string[]; readonly words: string } | undefined;
  /** Of each domain. */
  readonly certificates?:
    readonly { readonly name: string; readonly notAfterMs: number; readonly renewsItself: boolean }[] | undefined;
  readonly registrations?: readonly { readonly name: string; readonly expiresAtMs: number }[] | undefined;
  /** `2027-03-31` and the end of that day. */
  readonly comesDown?: { readonly day: string; readonly endsAtMs: number } | undefined;
  /** Lost addresses asked for today far more than usual. */
  readonly spikes?: readonly string[] | undefined;
  readonly logProblem?: string | undefined;
}

export type AlertKind = 'away' | 'drift' | 'certificate' | 'registration' | 'comes-down' | 'spike' | 'log';

export interface Alert {
  readonly kind: AlertKind;
  /** Which one, so that the same is not told twice. */
  readonly of: string;
  readonly weight: 'wrong' | 'look';
  readonly words: string;
}

/** Common practice, no source: a certificate that renews itself should have done so by then; a name is renewed within a month. */
export const CERTIFICATE_DAYS = 14;
export const REGISTRATION_DAYS = 30;
export const COMES_DOWN_DAYS = 7;

export function alertsOf(facts: AlertFacts, nowMs: number): Alert[] {
  const alerts: Alert[] = [];
  const { away, drift, certificates = [], registrations = [], comesDown, spikes = [], logProblem } = facts;
  if (away) alerts.push({ kind: 'away', of: '', weight: 'wrong', words: `The site does not answer: ${away.problem}` });
  if (drift)
    alerts.push({
      kind: 'drift',
      of: String(drift.sinceMs),
      weight: 'wrong',
      words: `The live host gives something else than the release, since ${day(drift.sinceMs)}: ${drift.words}`,
    });
  for (const certificate of certificates) {
    const left = daysLeft(certificate.notAfterMs, nowMs);
    if (left < CERTIFICATE_DAYS)
      alerts.push({
        kind: 'certificate',
        of: `${certificate.name} ${certificate.notAfterMs}`,
        weight: left <= 3 ? 'wrong' : 'look',
        words:
          left <= 0
            ? `The certificate of ${certificate.name} has run out; browsers warn visitors away`
            : `The certificate of ${certificate.name} runs out on ${day(certificate.notAfterMs)}${certificate.renewsItself ? ', and should have renewed itself by now' : '; it did not come from here, so have it renewed where it did'}`,
      });
  }
  for (const registration of registrations) {
    const left = daysLeft(registration.expiresAtMs, nowMs);
    if (left < REGISTRATION_DAYS)
      alerts.push({
        kind: 'registration',
        of: `${registration.name} ${registration.expiresAtMs}`,
        weight: left <= 7 ? 'wrong' : 'look',
        words:
          left <= 0
            ? `The registration of ${registration.name} has run out; renew it before somebody else takes the name`
            : `The registration of ${registration.name} runs out on ${day(registration.expiresAtMs)}; renew it at the registrar`,
      });
  }
  if (comesDown) {
    const left = daysLeft(comesDown.endsAtMs, nowMs);
    if (left <= 0)
      alerts.push({
        kind: 'comes-down',
        of: `${comesDown.day} over`,
        weight: 'look',
        words: `The site has come down after ${comesDown.day}, as it was set to`,
      });
    else if (left <= COMES_DOWN_DAYS)
      alerts.push({
        kind: 'comes-down',
        of: comesDown.day,
        weight: 'look',
        words: `The site comes down after ${comesDown.day}`,
      });
  }
  const [first] = spikes;
  if (first !== undefined)
    alerts.push({
      kind: 'spike',
      of: first,
      weight: 'look',
      words: `${first} finds nothing and is asked for far more than usual today${spikes.length > 1 ? `, and ${spikes.length - 1} more` : ''}`,
    });
  if (logProblem !== undefined)
    alerts.push({ kind: 'log', of: '', weight: 'look', words: `The access log could not be read: ${logProblem}` });
  return alerts.sort((a, b) => Number(b.weight === 'wrong') - Number(a.weight === 'wrong'));
}
