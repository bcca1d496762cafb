/**
 * Second factors: codes of an app (TOTP, RFC 6238), passkeys (Web Authentication Level 3) and codes that were written
 * down. Whoever has one is asked for it after the password.
 */
import type { Factor } from '@fastigium/contracts/api/account';
import { DomainError } from '@fastigium/contracts/errors';
import {
  generateAuthenticationOptions,
  generateRegistrationOptions,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
  type AuthenticationResponseJSON,
  type AuthenticatorTransport,
  type RegistrationResponseJSON,
} from '@simplewebauthn/server';
import { randomBytes, randomInt } from 'node:crypto';
import { generateSecret, generateURI, verify } from 'otplib';
import type { Database, Queries } from '../../db/database.ts';
import type { Seal } from '../../secrets.ts';
import { sha256 } from '../../threads/tasks.ts';

/** What a passkey is bound to: the name of the place, and the origin a page of it has. */
export interface PasskeySite {
  readonly name: string;
  readonly origin: string;
}

const STEP_MINUTES = 5;
const MOST_TRIES = 5;
/** RFC 6238, section 5.2: one time step for what the network and slow fingers take. */
const TOLERANCE_SECONDS = 30;
const RECOVERY_CODES = 10;
/** Letters and digits that are not taken for each other; 31 of them, so twelve are worth 59 bits. */
const RECOVERY_ALPHABET = 'abcdefghjkmnpqrstuvwxyz23456789';
const RECOVERY_CHARS = 12;

const purposeOf = (factor: string): string => `second factor ${factor}`;

interface FactorRow extends Record<string, unknown> {
  readonly id: string;
  readonly kind: 'code' | 'passkey';
  readonly name: string;
  readonly since: Date;
  readonly usedAt: Date | null;
}

export async function factorsOf(queries: Queries, person: string): Promise<Factor[]> {
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

export async function recoveryCodesLeft(queries: Queries, person: string): Promise<number> {
  const { left } = await queries.one<{ left: number }>(
    'select count(*)::int as left from recovery_code where person_id = $1',
    [person],
  );
  return left;
}

export async function makeRecoveryCodes(tx: Queries, person: string): Promise<string[]> {
  const codes = Array.from({ length: RECOVERY_CODES }, () => {
    const letters = Array.from(
      { length: RECOVERY_CHARS },
      () => RECOVERY_ALPHABET[randomInt(RECOVERY_ALPHABET.length)] ?? '',
    ).join('');
    return letters.replace(/(.{4})(?=.)/g, '$1-');
  });
  await tx.run('delete from recovery_code where person_id = $1', [person]);
  await tx.run('insert into recovery_code (person_id, code_hash) select $1, unnest($2::text[])', [
    person,
    codes.map(hashRecovery),
  ]);
  return codes;
}

/** As somebody may type it. */
const hashRecovery = (code: string): string => sha256(code.toLowerCase().replace(/[^a-z0-9]/g, ''));

/** With the first factor come the codes for whoever loses it. */
async function firstRecoveryCodes(tx: Queries, person: string): Promise<string[] | null> {
  return (await recoveryCodesLeft(tx, person)) === 0 ? makeRecoveryCodes(tx, person) : null;
}

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
      [id, person.id, name, seal.seal(purposeOf(id), secret)],
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
    if (!row) throw new DomainError('not-found', { what: 'such second factor' });
    const step = await stepOf(seal, row, code);
    if (step === undefined) throw new DomainError('factor-unproved');
    await tx.run('update second_factor set is_proved = true, last_step = $2, used_at = now() where id = $1', [
      factor,
      step,
    ]);
    return firstRecoveryCodes(tx, person);
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
    secret: seal.open(purposeOf(id), secret),
    token: code,
    epochTolerance: TOLERANCE_SECONDS,
    ...(lastStep === null ? {} : { afterTimeStep: lastStep }),
  });
  return found.valid && 'timeStep' in found ? found.timeStep : undefined;
}

/** Something that begins with one request and ends with another. @returns the token that ends it */
async function beginStep(
  queries: Queries,
  person: string,
  purpose: 'sign in' | 'new passkey',
  challenge: string,
): Promise<string> {
  const token = randomBytes(24).toString('base64url');
  await queries.run('delete from sign_in_step where expires_at < now()');
  await queries.run(
    `insert into sign_in_step (token_hash, person_id, purpose, challenge, expires_at) values ($1, $2, $3, $4, now() + make_interval(mins => $5))`,
    [sha256(token), person, purpose, challenge, STEP_MINUTES],
  );
  return token;
}

/** One more try at it; throws a DomainError `second-ended` where there is none left. */
async function tryStep(
  queries: Queries,
  token: string,
  purpose: 'sign in' | 'new passkey',
): Promise<{ person: string; challenge: string }> {
  const row = await queries.maybeOne<{ person: string; challenge: string }>(
    `update sign_in_step set tries = tries + 1 where token_hash = $1 and purpose = $2 and expires_at > now() and tries < $3
     returning person_id as person, challenge`,
    [sha256(token), purpose, MOST_TRIES],
  );
  if (!row) throw new DomainError('second-ended');
  return row;
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
    credential === null ? [] : [{ id: credential, transports: transports as AuthenticatorTransport[] }],
  );
  const options = await generateAuthenticationOptions({
    rpID: site.name,
    allowCredentials: passkeys,
    userVerification: 'preferred',
  });
  return {
    step: await beginStep(queries, person, 'sign in', options.challenge),
    hasCodes: factors.some(({ kind }) => kind === 'code'),
    hasRecoveryCodes: (await recoveryCodesLeft(queries, person)) > 0,
    passkey: passkeys.length > 0 ? { ...options } : null,
  };
}

export interface SecondGiven {
  readonly step: string;
  readonly code?: string | undefined;
  readonly passkey?: unknown;
}

/** Whose step it is, before anything is tried; throws a DomainError `second-ended`. */
export async function personOfStep(queries: Queries, step: string): Promise<string> {
  const row = await queries.maybeOne<{ person: string }>(
    `select person_id as person from sign_in_step where token_hash = $1 and purpose = 'sign in' and expires_at > now()`,
    [sha256(step)],
  );
  if (!row) throw new DomainError('second-ended');
  return row.person;
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
    const by =
      given.code === undefined
        ? await byPasskey(tx, person, challenge, given.passkey, site)
        : ((await byCode(tx, seal, person, given.code)) ?? (await byRecoveryCode(tx, person, given.code)));
    if (by === undefined) throw new DomainError('second-wrong');
    await tx.run('delete from sign_in_step where token_hash = $1', [sha256(given.step)]);
    return { person, by };
  });
}

/** A code of six digits can be guessed, one that was written down cannot. */
export const isGuessable = (code: string | undefined): boolean =>
  code !== undefined && /^\d{6}$/.test(withoutSpaces(code));
const withoutSpaces = (code: string): string => code.replace(/\s/g, '');

async function byCode(tx: Queries, seal: Seal, person: string, code: string): Promise<string | undefined> {
  // Locked, so that two requests cannot use one code.
  const rows = await tx.many<CodeRow>(`${CODE_ROWS} and is_proved for update`, [person]);
  for (const row of rows) {
    const step = await stepOf(seal, row, withoutSpaces(code));
    if (step === undefined) continue;
    await tx.run('update second_factor set last_step = $2, used_at = now() where id = $1', [row.id, step]);
    return 'a code';
  }
  return undefined;
}

async function byRecoveryCode(tx: Queries, person: string, code: string): Promise<string | undefined> {
  const used = await tx.run('delete from recovery_code where person_id = $1 and code_hash = $2', [
    person,
    hashRecovery(code),
  ]);
  return used === 1 ? 'a recovery code' : undefined;
}

async function byPasskey(
  tx: Queries,
  person: string,
  challenge: string,
  answer: unknown,
  site: PasskeySite,
): Promise<string | undefined> {
  const response = answer as AuthenticationResponseJSON;
  const row = await tx.maybeOne<{ id: string; publicKey: Buffer; useCount: number; transports: string[] }>(
    `select id, public_key as "publicKey", use_count::float8 as "useCount", transports from second_factor
      where person_id = $1 and kind = 'passkey' and credential = $2 for update`,
    [person, response.id],
  );
  if (!row) return undefined;
  const { verified, authenticationInfo } = await verifyAuthenticationResponse({
    response,
    expectedChallenge: challenge,
    expectedOrigin: site.origin,
    expectedRPID: site.name,
    // The password stands for it.
    requireUserVerification: false,
    credential: {
      id: response.id,
      publicKey: new Uint8Array(row.publicKey),
      counter: row.useCount,
      transports: row.transports as AuthenticatorTransport[],
    },
  }).catch(() => ({ verified: false, authenticationInfo: undefined }));
  if (!verified || !authenticationInfo) return undefined;
  await tx.run('update second_factor set use_count = $2, used_at = now() where id = $1', [
    row.id,
    authenticationInfo.newCounter,
  ]);
  return 'a passkey';
}

export async function beginPasskey(
  queries: Queries,
  person: { readonly id: string; readonly name: string; readonly email: string },
  site: PasskeySite,
): Promise<{ step: string; options: Record<string, unknown> }> {
  const known = await queries.many<{ credential: string }>(
    `select credential from second_factor where person_id = $1 and kind = 'passkey'`,
    [person.id],
  );
  const options = await generateRegistrationOptions({
    rpID: site.name,
    rpName: 'Fastigium',
    userName: person.email,
    userDisplayName: person.name,
    userID: new Uint8Array(Buffer.from(person.id)),
    excludeCredentials: known.map(({ credential }) => ({ id: credential })),
    authenticatorSelection: { residentKey: 'preferred', userVerification: 'preferred' },
  });
  return {
    step: await beginStep(queries, person.id, 'new passkey', options.challenge),
    options: { ...options },
  };
}

/** @returns the recovery codes, where there were none */
export async function addPasskey(
  db: Database,
  person: string,
  { step, name, passkey }: { readonly step: string; readonly name: string; readonly passkey: unknown },
  site: PasskeySite,
): Promise<string[] | null> {
  const begun = await tryStep(db, step, 'new passkey');
  if (begun.person !== person) throw new DomainError('second-ended');
  const response = passkey as RegistrationResponseJSON;
  const { registrationInfo } = await verifyRegistrationResponse({
    response,
    expectedChallenge: begun.challenge,
    expectedOrigin: site.origin,
    expectedRPID: site.name,
    requireUserVerification: false,
  }).catch((error: unknown) => {
    throw new DomainError('passkey-wrong', { reason: (error as Error).message }, { cause: error });
  });
  if (!registrationInfo) throw new DomainError('passkey-wrong', { reason: 'its signature is not right' });
  const { id, publicKey, counter, transports } = registrationInfo.credential;
  return db.transaction(async (tx) => {
    const added = await tx.run(
      `insert into second_factor (person_id, kind, name, credential, public_key, use_count, transports)
       values ($1, 'passkey', $2, $3, $4, $5, $6) on conflict (credential) do nothing`,
      [person, name, id, Buffer.from(publicKey), counter, transports ?? []],
    );
    if (added === 0) throw new DomainError('passkey-wrong', { reason: 'it is here already' });
    await tx.run('delete from sign_in_step where token_hash = $1', [sha256(step)]);
    return firstRecoveryCodes(tx, person);
  });
}

/** With the last factor go the recovery codes: they stand for one that was lost, and there is none any more. */
export async function removeFactor(tx: Queries, person: string, factor: string): Promise<string> {
  const gone = await tx.maybeOne<{ name: string }>(
    'delete from second_factor where id = $1 and person_id = $2 returning name',
    [factor, person],
  );
  if (!gone) throw new DomainError('not-found', { what: 'such second factor' });
  if ((await factorsOf(tx, person)).length === 0)
    await tx.run('delete from recovery_code where person_id = $1', [person]);
  return gone.name;
}

export async function removeAllFactors(tx: Queries, person: string): Promise<number> {
  await tx.run('delete from recovery_code where person_id = $1', [person]);
  return tx.run('delete from second_factor where person_id = $1', [person]);
}
