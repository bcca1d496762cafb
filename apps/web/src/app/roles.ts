/** What each role may do, in words. */
import type { Role } from '@fastigium/contracts/endpoint';

export const ROLE_WORDS: Readonly<Record<Role, string>> = {
  owner: 'does everything, invites and removes people',
  editor: 'changes and publishes sites',
  client: 'sees the live site, its rehearsal and its reports',
  reviewer: 'sees the work and changes nothing',
};
