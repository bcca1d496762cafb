/** As much as is needed before a site is open; messages are learnt with the first one (`ofSites`). */
import { BRITISH, createSpeaker, type Language } from './speaker.ts';

export { MISSING, type Speak } from './speaker.ts';
export { findNames, createSay, wordsIn, type Filling, type PhraseKey, type PhrasePart, type Say } from './phrases.ts';
export type { Catalogue, CatalogueOf, Pattern } from './catalogue.ts';

export const ENGLISH_ENTRANCE: Language = { ...BRITISH, catalogue: {} };

/** Knows the phrases of the interface alone. */
export const speakerOfEntrance = () => createSpeaker(ENGLISH_ENTRANCE, []);
