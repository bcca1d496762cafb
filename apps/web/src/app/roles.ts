/** The roles, and what each may do, in words. */
import type { Role } from '@fastigium/contracts/endpoint';

export const ROLE_WORDS: Readonly<Record<Role, string>> = {
  owner: 'does everything, invites and removes people',
  editor: 'changes and publishes sites',
  client: 'sees the live site, its rehearsal and its reports',
  reviewer: 'sees the work and changes nothing',
};

const NOUNS: Readonly<Record<Role, string>> = {
  owner: 'an owner',
  editor: 'an editor',
  client: 'a client',
  reviewer: 'a reviewer',
};

/** As in `an editor, who changes and publishes sites`. */
export const asRole = (role: Role): string => `${NOUNS[role]}, who ${ROLE_WORDS[role]}`;
