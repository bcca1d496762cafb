import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { ROLES } from '../endpoint.ts';
import { done, personRef } from './common.ts';

const credentials = z.object({
  email: z.email('write the whole e-mail address').max(254),
  password: z.string().min(1, 'a password is needed').max(1000),
});

export const session = z.object({
  person: personRef.extend({ email: z.string(), role: z.enum(ROLES) }).nullable(),
  /** Sent back in the `x-csrf-token` header of everything that changes something. */
  csrfToken: z.string(),
  /** True until the first owner exists. */
  needsOwner: z.boolean(),
  /** Names the demo sign-in while the demo is loaded. */
  demo: z.object({ email: z.string(), password: z.string() }).nullable(),
  /** Whether a link to set a new password can be had by mail. */
  hasMail: z.boolean(),
  /** The password was right and a second factor is asked for; null otherwise. */
  second: z
    .object({
      /** Sent back with the second factor. */
      step: z.string(),
      hasCodes: z.boolean(),
      hasRecoveryCodes: z.boolean(),
      /** PublicKeyCredentialRequestOptionsJSON of Web Authentication Level 3; null without a passkey. */
      passkey: z.record(z.string(), z.unknown()).nullable(),
    })
    .nullable(),
});
export type Session = z.infer<typeof session>;

/** What else a password has to be is reckoned by the server, which has the list of those that are known. */
export const newPassword = z.string().min(10, 'use at least 10 characters').max(1000);

export const newOwner = credentials.extend({
  name: z.string().trim().min(1, 'a name is needed').max(100),
  password: newPassword,
});

/** What an authenticator answers, as browsers make JSON of it (Web Authentication Level 3, PublicKeyCredential.toJSON). */
export const passkeyAnswer = z.looseObject({
  id: z.string().max(2000),
  rawId: z.string().max(2000),
  type: z.literal('public-key'),
  response: z.looseObject({ clientDataJSON: z.string().max(8000) }),
});

/** Of an app that makes them, or one of those that were written down. */
const code = z.string().trim().min(6, 'write the whole code').max(40);

export const sessionApi = {
  get: defineEndpoint('GET /session', { summary: 'Who is signed in', access: 'public', answer: session }),
  signIn: defineEndpoint('POST /session', { summary: 'Sign in', access: 'public', body: credentials, answer: session }),
  second: defineEndpoint('POST /session/second', {
    summary: 'Sign in with the second factor, after the password',
    access: 'public',
    body: z
      .object({ step: z.string().max(100), code: code.optional(), passkey: passkeyAnswer.optional() })
      .refine((given) => (given.code === undefined) !== (given.passkey === undefined), 'a code or a passkey is needed'),
    answer: session,
  }),
  signOut: defineEndpoint('DELETE /session', { summary: 'Sign out', access: 'public', answer: done }),
  createOwner: defineEndpoint('POST /owner', {
    summary: 'Create the first owner',
    access: 'public',
    body: newOwner,
    answer: session,
    status: 201,
  }),
};
