/** Imported by whatever is shown of a site: the words of what is said there come with it, and not with the first page. */
import { learnSites } from '@fastigium/words/ofSites';
import { speak } from './index.ts';

learnSites(speak);
