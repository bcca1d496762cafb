/** The roles, and what each may do, in words. */
import type { Role } from '@fastigium/contracts/endpoint';
import { say } from './words.ts';

export const ROLE_NAMES: Readonly<Record<Role, string>> = {
  owner: say('roles.owner'),
  editor: say('roles.editor'),
  client: say('roles.client'),
  reviewer: say('roles.reviewer'),
};

export const ROLE_WORDS: Readonly<Record<Role, string>> = {
  owner: say('roles.doesEverythingInvitesAndRemoves'),
  editor: say('roles.changesAndPublishesSites'),
  client: say('roles.seesTheLiveSiteIts'),
  reviewer: say('roles.seesTheWorkAndChanges'),
};

const NOUNS: Readonly<Record<Role, string>> = {
  owner: say('roles.anOwner'),
  editor: say('roles.anEditor'),
  client: say('roles.aClient'),
  reviewer: say('roles.aReviewer'),
};

/** As in `an editor, who changes and publishes sites`. */
export const asRole = (role: Role): string => say('roles.who', { role: NOUNS[role], role2: ROLE_WORDS[role] });
