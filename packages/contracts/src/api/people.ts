import { z } from 'zod';
import { endpoint } from '../define.ts';
import { ROLES } from '../endpoint.ts';
import { done, id, instant, personRef } from './common.ts';
import { newOwner, session } from './session.ts';

export const member = personRef.extend({ email: z.string(), role: z.enum(ROLES), since: instant });
export const invitation = z.object({ id, role: z.enum(ROLES), by: z.string(), until: instant });
export const people = z.object({ team: z.string(), members: z.array(member), invitations: z.array(invitation) });
export type People = z.infer<typeof people>;

const token = z.object({ token: z.string().regex(/^[A-Za-z0-9_-]{20,100}$/, 'the link is not whole; copy all of it') });
const person = z.object({ person: id });

export const peopleApi = {
  list: endpoint('GET /people', {
    summary: 'Everyone with access, and invitations that are open',
    access: 'reviewer',
    answer: people,
  }),
  invite: endpoint('POST /invitations', {
    summary: 'A link by which one person may join',
    access: 'owner',
    body: z.object({ role: z.enum(ROLES), days: z.number().int().min(1).max(30).default(7) }),
    answer: z.object({ token: z.string(), until: instant }),
    status: 201,
  }),
  withdraw: endpoint('DELETE /invitations/:invitation', {
    summary: 'Take an invitation back',
    access: 'owner',
    params: z.object({ invitation: id }),
    answer: done,
  }),
  invited: endpoint('GET /join/:token', {
    summary: 'What an invitation is for',
    access: 'public',
    params: token,
    answer: z.object({ team: z.string(), by: z.string(), role: z.enum(ROLES), until: instant }),
  }),
  join: endpoint('POST /join/:token', {
    summary: 'Join by an invitation',
    access: 'public',
    params: token,
    body: newOwner,
    answer: session,
    status: 201,
  }),
  setRole: endpoint('POST /people/:person/role', {
    summary: 'Give somebody another role',
    access: 'owner',
    params: person,
    body: z.object({ role: z.enum(ROLES) }),
    answer: done,
  }),
  remove: endpoint('DELETE /people/:person', {
    summary: 'Take somebody’s access away, at once',
    access: 'owner',
    params: person,
    answer: done,
  }),
};
