/** The words of the application: what messages say in each language. */
import { english } from './en/index.ts';
import { BRITISH, createSpeaker, type Language, type Speak } from './speaker.ts';
import { SUBJECTS } from './subjects.ts';

export { SUBJECTS } from './subjects.ts';
export { MISSING, createSpeaker, type Language, type Speak } from './speaker.ts';
export { findNames, createSay, wordsIn, type Filling, type PhraseKey, type PhrasePart, type Say } from './phrases.ts';
export { isPlain, type Catalogue, type CatalogueOf, type Pattern } from './catalogue.ts';

export const ENGLISH: Language = { ...BRITISH, catalogue: english };

export const speakerFor = (language: Language): Speak => createSpeaker(language, SUBJECTS);
