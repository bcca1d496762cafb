/** Passkeys (Web Authentication Level 3). */
import { DomainError } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import {
  generateAuthenticationOptions,
  generateRegistrationOptions,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
  type AuthenticationResponseJSON,
  type AuthenticatorTransport,
  type RegistrationResponseJSON,
} from '@simplewebauthn/server';
import type { Database, Queries } from '../../../db/database.ts';
import { createFirstRecoveryCodes } from './recoveryCodes.ts';
import { beginStep, endStep, tryStep } from './steps.ts';

/** What a passkey is bound to: the name of the place, and the origin a page of it has. */
export interface PasskeySite {
  readonly name: string;
  readonly origin: string;
}

/** What a browser needs to answer with one of these. */
export const askPasskey = (
  passkeys: readonly { readonly id: string; readonly transports: readonly string[] }[],
  site: PasskeySite,
) =>
  generateAuthenticationOptions({
    rpID: site.name,
    allowCredentials: passkeys.map(({ id, transports }) => ({
      id,
      transports: transports as AuthenticatorTransport[],
    })),
    userVerification: 'preferred',
  });

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
  if (!registrationInfo) throw new DomainError('passkey-wrong', { reason: reason('signature-wrong') });
  const { id, publicKey, counter, transports } = registrationInfo.credential;
  return db.transaction(async (tx) => {
    const added = await tx.run(
      `insert into second_factor (person_id, kind, name, credential, public_key, use_count, transports)
       values ($1, 'passkey', $2, $3, $4, $5, $6) on conflict (credential) do nothing`,
      [person, name, id, Buffer.from(publicKey), counter, transports ?? []],
    );
    if (added === 0) throw new DomainError('passkey-wrong', { reason: reason('here-already') });
    await endStep(tx, step);
    return createFirstRecoveryCodes(tx, person);
  });
}

/** Whether the answer to the challenge is by a passkey of theirs. */
export async function usePasskey(
  tx: Queries,
  person: string,
  { challenge, answer }: { readonly challenge: string; readonly answer: unknown },
  site: PasskeySite,
): Promise<boolean> {
  const response = answer as AuthenticationResponseJSON;
  const row = await tx.maybeOne<{ id: string; publicKey: Buffer; useCount: number; transports: string[] }>(
    `select id, public_key as "publicKey", use_count::float8 as "useCount", transports from second_factor
      where person_id = $1 and kind = 'passkey' and credential = $2 for update`,
    [person, response.id],
  );
  if (!row) return false;
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
  if (!verified || !authenticationInfo) return false;
  await tx.run('update second_factor set use_count = $2, used_at = now() where id = $1', [
    row.id,
    authenticationInfo.newCounter,
  ]);
  return true;
}
