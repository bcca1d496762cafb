import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { ROLES } from '../endpoint.ts';
import { id } from '../id.ts';
import { done, instant, personRef } from './common.ts';
import { newOwner, newPassword, session } from './session.ts';

/** Sites somebody sees, by their ids; null: all of the team, those to come too. Owners see all. */
export const seenSites = z.array(id).max(1000).nullable();

export const member = personRef.extend({
  email: z.string(),
  role: z.enum(ROLES),
  since: instant,
  /** What owners alone are told of the others. */
  access: z
    .object({ sites: seenSites, factors: z.number().int(), sessions: z.number().int(), lastSeen: instant.nullable() })
    .nullable(),
});
export const invitation = z.object({ id, role: z.enum(ROLES), by: z.string(), until: instant });
export const people = z.object({ team: z.string(), members: z.array(member), invitations: z.array(invitation) });
export type People = z.infer<typeof people>;

const madeLink = z.object({ token: z.string(), until: instant });
const token = z.object({ token: z.string().regex(/^[A-Za-z0-9_-]{20,100}$/, 'the link is not whole; copy all of it') });
const person = z.object({ person: id });

export const peopleApi = {
  list: defineEndpoint('GET /people', {
    summary: 'Everyone with access, and invitations that are open',
    access: 'reviewer',
    answer: people,
  }),
  invite: defineEndpoint('POST /invitations', {
    summary: 'A link by which one person may join',
    access: 'owner',
    trail: 'people',
    body: z
      .object({ role: z.enum(ROLES), days: z.number().int().min(1).max(30).default(7), sites: seenSites.default(null) })
      .refine(({ role, sites }) => role !== 'client' || (sites?.length ?? 0) > 0, {
        path: ['sites'],
        message: 'choose the sites a client sees',
      }),
    answer: madeLink,
    status: 201,
  }),
  withdraw: defineEndpoint('DELETE /invitations/:invitation', {
    summary: 'Take an invitation back',
    access: 'owner',
    trail: 'people',
    params: z.object({ invitation: id }),
    answer: done,
  }),
  invited: defineEndpoint('GET /join/:token', {
    summary: 'What an invitation is for',
    access: 'public',
    params: token,
    answer: z.object({ team: z.string(), by: z.string(), role: z.enum(ROLES), until: instant }),
  }),
  join: defineEndpoint('POST /join/:token', {
    summary: 'Join by an invitation',
    access: 'public',
    params: token,
    body: newOwner,
    answer: session,
    status: 201,
  }),
  setRole: defineEndpoint('PUT /people/:person/role', {
    summary: 'Give somebody another role',
    access: 'owner',
    trail: 'people',
    params: person,
    body: z.object({ role: z.enum(ROLES) }),
    answer: done,
  }),
  remove: defineEndpoint('DELETE /people/:person', {
    summary: 'Take somebody’s access away, at once',
    access: 'owner',
    trail: 'people',
    params: person,
    answer: done,
  }),
  /** Of a link to set a new password. */
  reset: defineEndpoint('GET /reset/:token', {
    summary: 'Whose password a link sets',
    access: 'public',
    params: token,
    answer: z.object({ name: z.string(), email: z.string(), until: instant }),
  }),
  useReset: defineEndpoint('POST /reset/:token', {
    summary: 'Set a new password by a link; every session ends',
    access: 'public',
    params: token,
    body: z.object({ password: newPassword }),
    answer: done,
  }),
  forgot: defineEndpoint('POST /forgot', {
    summary: 'Have a link to set a new password sent by mail, where mail is set up',
    access: 'public',
    body: z.object({ email: z.email().max(254) }),
    answer: done,
  }),
  setSites: defineEndpoint('PUT /people/:person/sites', {
    summary: 'Say which sites somebody sees',
    access: 'owner',
    trail: 'people',
    params: person,
    body: z.object({ sites: seenSites }),
    answer: done,
  }),
  resetPassword: defineEndpoint('POST /people/:person/reset', {
    summary: 'A link by which somebody sets a new password',
    access: 'owner',
    trail: 'people',
    params: person,
    answer: madeLink,
    status: 201,
  }),
  endSessions: defineEndpoint('DELETE /people/:person/sessions', {
    summary: 'Sign somebody out everywhere',
    access: 'owner',
    trail: 'people',
    params: person,
    answer: done,
  }),
  removeFactors: defineEndpoint('DELETE /people/:person/factors', {
    summary: 'Remove somebody’s second factors, where they have lost them',
    access: 'owner',
    trail: 'people',
    params: person,
    answer: done,
  }),
};
