/** As much of the words as is needed before a site is open; what is said of sites is learnt with the first one (`ofSites`). */
import { error } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import { entrance } from './en/entrance.ts';
import { BRITISH, speakerOf, type Language } from './speaker.ts';

export { MISSING, type Speak } from './speaker.ts';
export { namesIn, sayerOf, wordsIn, type Filling, type PhraseKey, type PhrasePart, type Say } from './phrases.ts';
export type { Catalogue, CatalogueOf, Pattern } from './catalogue.ts';

export const ENGLISH_ENTRANCE: Language = { ...BRITISH, catalogue: entrance };

export const speakerOfEntrance = () => speakerOf(ENGLISH_ENTRANCE, [error, reason]);
