import { z } from 'zod';
import { endpoint } from '../define.ts';
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
});
export type Session = z.infer<typeof session>;

export const newOwner = credentials.extend({
  name: z.string().trim().min(1, 'a name is needed').max(100),
  password: z.string().min(10, 'use at least 10 characters').max(1000),
});

export const sessionApi = {
  get: endpoint('GET /session', { summary: 'Who is signed in', access: 'public', answer: session }),
  signIn: endpoint('POST /session', { summary: 'Sign in', access: 'public', body: credentials, answer: session }),
  signOut: endpoint('DELETE /session', { summary: 'Sign out', access: 'public', answer: done }),
  createOwner: endpoint('POST /owner', {
    summary: 'Create the first owner',
    access: 'public',
    body: newOwner,
    answer: session,
    status: 201,
  }),
};
