/** One's own account: password, second factors, sessions. */
import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { id } from '../id.ts';
import { done, instant } from './common.ts';
import { newPassword, passkeyAnswer } from './session.ts';

export const factor = z.object({
  id,
  kind: z.enum(['code', 'passkey']),
  name: z.string(),
  since: instant,
  usedAt: instant.nullable(),
});
export type Factor = z.infer<typeof factor>;

export const account = z.object({
  name: z.string(),
  email: z.string(),
  passwordChangedAt: instant,
  factors: z.array(factor),
  /** How many are left. */
  recoveryCodes: z.number().int(),
  sessions: z.array(
    z.object({
      id,
      /** What the browser calls itself, and the network address it came from. */
      agent: z.string(),
      address: z.string(),
      since: instant,
      seenAt: instant,
      endsAt: instant,
      isThis: z.boolean(),
    }),
  ),
});
export type Account = z.infer<typeof account>;

/** Whoever sits down at a screen that was left open knows no password. */
const password = z.object({ password: z.string().min(1, 'your password is needed').max(1000) });
const name = z.string().trim().min(1, 'give it a name').max(60);
/** Shown once; null where they were there already. */
const newCodes = z.object({ recoveryCodes: z.array(z.string()).nullable() });

export const accountApi = {
  get: defineEndpoint('GET /account', { summary: 'One’s own account', access: 'client', answer: account }),
  changePassword: defineEndpoint('PUT /account/password', {
    summary: 'Change one’s password; the other sessions end',
    access: 'client',
    trail: 'account',
    body: password.extend({ next: newPassword }),
    answer: done,
  }),
  endSession: defineEndpoint('DELETE /account/sessions/:session', {
    summary: 'End one of one’s sessions',
    access: 'client',
    trail: 'account',
    params: z.object({ session: id }),
    answer: done,
  }),
  endOthers: defineEndpoint('DELETE /account/sessions', {
    summary: 'End all sessions of one’s own but this one',
    access: 'client',
    trail: 'account',
    answer: done,
  }),
  beginCodes: defineEndpoint('POST /account/codes', {
    summary: 'Begin with an app that makes codes (RFC 6238)',
    access: 'client',
    trail: 'account',
    body: password.extend({ name }),
    answer: z.object({
      /** Holds once a code has proved it. */
      factor: id,
      /** Base32 (RFC 4648, section 6), for whoever types it. */
      secret: z.string(),
      /** The same for a camera, as several apps read it. */
      uri: z.string(),
    }),
    status: 201,
  }),
  proveCodes: defineEndpoint('POST /account/codes/:factor', {
    summary: 'Prove by a first code that the secret arrived',
    access: 'client',
    trail: 'account',
    params: z.object({ factor: id }),
    body: z.object({ code: z.string().trim().min(6, 'write the whole code').max(10) }),
    answer: newCodes,
  }),
  beginPasskey: defineEndpoint('POST /account/passkeys/options', {
    summary: 'Begin with a passkey',
    access: 'client',
    trail: 'account',
    body: password,
    answer: z.object({
      step: z.string(),
      /** PublicKeyCredentialCreationOptionsJSON of Web Authentication Level 3. */
      options: z.record(z.string(), z.unknown()),
    }),
  }),
  addPasskey: defineEndpoint('POST /account/passkeys', {
    summary: 'Add a passkey',
    access: 'client',
    trail: 'account',
    body: z.object({ step: z.string().max(100), name, passkey: passkeyAnswer }),
    answer: newCodes,
    status: 201,
  }),
  removeFactor: defineEndpoint('DELETE /account/factors/:factor', {
    summary: 'Remove a second factor',
    access: 'client',
    trail: 'account',
    params: z.object({ factor: id }),
    body: password,
    answer: done,
  }),
  newRecoveryCodes: defineEndpoint('POST /account/recovery-codes', {
    summary: 'New recovery codes; those of before end',
    access: 'client',
    trail: 'account',
    body: password,
    answer: z.object({ recoveryCodes: z.array(z.string()) }),
  }),
};
