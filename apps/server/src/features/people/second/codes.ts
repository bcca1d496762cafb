/** Codes of an app by the time (TOTP, RFC 6238). */
import { DomainError } from '@fastigium/contracts/errors';
import { generateSecret, generateURI, verify } from 'otplib';
import type { Database, Queries } from '../../../db/database.ts';
import type { Seal } from '../../../secrets.ts';
import { createFirstRecoveryCodes } from './recoveryCodes.ts';

/** RFC 6238, section 5.2: one time step for what the network and slow fingers take. */
const TOLERANCE_SECONDS = 30;

const namePurpose = (factor: string): string => `second factor ${factor}`;

export async function beginCodes(
  db: Database,
  seal: Seal,
  person: { readonly id: string; readonly email: string },
  name: string,
): Promise<{ factor: string; secret: string; uri: string }> {
  const secret = generateSecret();
  return db.transaction(async (tx) => {
    // One that was begun before and never proved is none.
    await tx.run('delete from second_factor where person_id = $1 and not is_proved', [person.id]);
    const { id } = await tx.one<{ id: string }>('select gen_random_uuid() as id');
    await tx.run(
      `insert into second_factor (id, person_id, kind, name, secret, is_proved) values ($1, $2, 'code', $3, $4, false)`,
      [id, person.id, name, seal.seal(namePurpose(id), secret)],
    );
    return { factor: id, secret, uri: generateURI({ issuer: 'Fastigium', label: person.email, secret }) };
  });
}

/** @returns the recovery codes, where there were none */
export async function proveCodes(
  db: Database,
  seal: Seal,
  person: string,
  factor: string,
  code: string,
): Promise<string[] | null> {
  return db.transaction(async (tx) => {
    const row = await tx.maybeOne<CodeRow>(`${CODE_ROWS} and id = $2 and not is_proved for update`, [person, factor]);
    if (!row) throw new DomainError('not-found', { what: 'secondFactor' });
    const step = await stepOf(seal, row, code);
    if (step === undefined) throw new DomainError('factor-unproved');
    await tx.run('update second_factor set is_proved = true, last_step = $2, used_at = now() where id = $1', [
      factor,
      step,
    ]);
    return createFirstRecoveryCodes(tx, person);
  });
}

interface CodeRow extends Record<string, unknown> {
  readonly id: string;
  readonly secret: Buffer;
  readonly lastStep: number | null;
}
const CODE_ROWS = `select id, secret, last_step::float8 as "lastStep" from second_factor where person_id = $1 and kind = 'code'`;

/** The time step a code is of; undefined where it is none, or one of before (RFC 6238, section 5.2: each is good once). */
async function stepOf(seal: Seal, { id, secret, lastStep }: CodeRow, code: string): Promise<number | undefined> {
  if (!/^\d{6}$/.test(code)) return undefined;
  const found = await verify({
    secret: seal.open(namePurpose(id), secret),
    token: code,
    epochTolerance: TOLERANCE_SECONDS,
    ...(lastStep === null ? {} : { afterTimeStep: lastStep }),
  });
  return found.valid && 'timeStep' in found ? found.timeStep : undefined;
}

/** A code of six digits can be guessed, one that was written down cannot. */
export const isGuessable = (code: string | undefined): boolean =>
  code !== undefined && /^\d{6}$/.test(withoutSpaces(code));
const withoutSpaces = (code: string): string => code.replace(/\s/g, '');

/** Whether it is one of theirs, and was not used before. */
export async function useCode(tx: Queries, seal: Seal, person: string, code: string): Promise<boolean> {
  // Locked, so that two requests cannot use one code.
  const rows = await tx.many<CodeRow>(`${CODE_ROWS} and is_proved for update`, [person]);
  for (const row of rows) {
    const step = await stepOf(seal, row, withoutSpaces(code));
    if (step === undefined) continue;
    await tx.run('update second_factor set last_step = $2, used_at = now() where id = $1', [row.id, step]);
    return true;
  }
  return false;
}
