/** What may have to be said before a site is open. */
import type { Catalogue } from '../catalogue.ts';
import { errorWords } from './error.ts';
import { reasonWords } from './reason.ts';

export const entrance: Catalogue<string> = { error: errorWords, reason: reasonWords };
