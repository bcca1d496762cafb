/** Every subject that messages are about. */
import { letter, preview } from '@fastigium/contracts/messages/letter';
import { report } from '@fastigium/contracts/messages/report';
import { SUBJECTS_OF_SITES } from './subjectsOfSites.ts';

export const SUBJECTS = [letter, preview, report, ...SUBJECTS_OF_SITES];
