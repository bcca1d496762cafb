/** Every subject that messages are about. */
import { error } from '@fastigium/contracts/errors';
import { letter, preview } from '@fastigium/contracts/messages/letter';
import { reason } from '@fastigium/contracts/messages/reason';
import { report } from '@fastigium/contracts/messages/report';
import { SUBJECTS_OF_SITES } from './subjectsOfSites.ts';

export const SUBJECTS = [error, reason, letter, preview, report, ...SUBJECTS_OF_SITES];
