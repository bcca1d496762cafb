/** Every subject that messages are about. */
import { error } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import { SUBJECTS_OF_SITES } from './subjectsOfSites.ts';

export const SUBJECTS = [error, reason, ...SUBJECTS_OF_SITES];
