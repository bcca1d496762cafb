/**
 * Second factors: codes of an app (TOTP, RFC 6238), passkeys (Web Authentication Level 3) and codes that were written
 * down. Whoever has one is asked for it after the password.
 */
import type { Factor } from '@fastigium/contracts/api/account';
import { DomainError } from '@fastigium/contracts/errors';
import type { Database, Queries } from '../../../db/database.ts';
import type { Seal } from '../../../secrets.ts';
import { useCode } from './codes.ts';
import { askPasskey, usePasskey, type PasskeySite } from './passkeys.ts';
import { countRecoveryCodes, useRecoveryCode } from './recoveryCodes.ts';
import { beginStep, endStep, tryStep } from './steps.ts';

interface FactorRow extends Record<string, unknown> {
  readonly id: string;
  readonly kind: 'code' | 'passkey';
  readonly name: string;
  readonly since: Date;
  readonly usedAt: Date | null;
}

export async function readFactors(queries: Queries, person: string): Promise<Factor[]> {
  const rows = await queries.many<FactorRow>(
    'select id, kind, name, created_at as since, used_at as "usedAt" from second_factor where person_id = $1 and is_proved order by created_at',
    [person],
  );
  return rows.map(({ since, usedAt, ...row }) => ({
    ...row,
    since: since.toISOString(),
    usedAt: usedAt?.toISOString() ?? null,
  }));
}

export interface SecondAsked {
  readonly step: string;
  readonly hasCodes: boolean;
  readonly hasRecoveryCodes: boolean;
  readonly passkey: Record<string, unknown> | null;
}

/** What is asked for after the right password; null where somebody has no second factor. */
export async function askSecond(queries: Queries, person: string, site: PasskeySite): Promise<SecondAsked | null> {
  const factors = await queries.many<{ kind: string; credential: string | null; transports: string[] }>(
    'select kind, credential, transports from second_factor where person_id = $1 and is_proved',
    [person],
  );
  if (factors.length === 0) return null;
  const passkeys = factors.flatMap(({ credential, transports }) =>
    credential === null ? [] : [{ id: credential, transports }],
  );
  const options = await askPasskey(passkeys, site);
  return {
    step: await beginStep(queries, person, 'sign in', options.challenge),
    hasCodes: factors.some(({ kind }) => kind === 'code'),
    hasRecoveryCodes: (await countRecoveryCodes(queries, person)) > 0,
    passkey: passkeys.length > 0 ? { ...options } : null,
  };
}

export interface SecondGiven {
  readonly step: string;
  readonly code?: string | undefined;
  readonly passkey?: unknown;
}

/** @returns who it is and by what; throws a DomainError `second-wrong` or `second-ended` */
export async function takeSecond(
  db: Database,
  seal: Seal,
  given: SecondGiven,
  site: PasskeySite,
): Promise<{ person: string; by: string }> {
  // Counted for good, also where what follows is taken back.
  const { person, challenge } = await tryStep(db, given.step, 'sign in');
  return db.transaction(async (tx) => {
    const by = await passSecondFactor(tx, seal, person, challenge, given, site);
    if (by === undefined) throw new DomainError('second-wrong');
    await endStep(tx, given.step);
    return { person, by };
  });
}

/** By what they came in; undefined where it was not theirs. */
async function passSecondFactor(
  tx: Queries,
  seal: Seal,
  person: string,
  challenge: string,
  { code, passkey }: SecondGiven,
  site: PasskeySite,
): Promise<string | undefined> {
  if (code === undefined)
    return (await usePasskey(tx, person, { challenge, answer: passkey }, site)) ? 'a passkey' : undefined;
  if (await useCode(tx, seal, person, code)) return 'a code';
  return (await useRecoveryCode(tx, person, code)) ? 'a recovery code' : undefined;
}

/** With the last factor go the recovery codes: they stand for one that was lost, and there is none any more. */
export async function removeFactor(tx: Queries, person: string, factor: string): Promise<string> {
  const gone = await tx.maybeOne<{ name: string }>(
    'delete from second_factor where id = $1 and person_id = $2 returning name',
    [factor, person],
  );
  if (!gone) throw new DomainError('not-found', { what: 'secondFactor' });
  if ((await readFactors(tx, person)).length === 0)
    await tx.run('delete from recovery_code where person_id = $1', [person]);
  return gone.name;
}

export async function removeAllFactors(tx: Queries, person: string): Promise<number> {
  await tx.run('delete from recovery_code where person_id = $1', [person]);
  return tx.run('delete from second_factor where person_id = $1', [person]);
}
