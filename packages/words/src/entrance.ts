/** As much as is needed before a site is open; messages are learnt with the first one (`ofSites`). */
import { BRITISH, speakerOf, type Language } from './speaker.ts';

export { MISSING, type Speak } from './speaker.ts';
export { namesIn, sayerOf, wordsIn, type Filling, type PhraseKey, type PhrasePart, type Say } from './phrases.ts';
export type { Catalogue, CatalogueOf, Pattern } from './catalogue.ts';

export const ENGLISH_ENTRANCE: Language = { ...BRITISH, catalogue: {} };

/** Knows the phrases of the interface alone. */
export const speakerOfEntrance = () => speakerOf(ENGLISH_ENTRANCE, []);
