/** The words of the application: what messages say in each language. */
import { english } from './en/index.ts';
import { speakerOf, type Language, type Speak } from './speaker.ts';
import { SUBJECTS } from './subjects.ts';

export { SUBJECTS } from './subjects.ts';
export { MISSING, speakerOf, type Language, type Speak } from './speaker.ts';
export { namesIn, sayerOf, wordsIn, type Filling, type PhraseKey, type PhrasePart, type Say } from './phrases.ts';
export { isPlain, type Catalogue, type CatalogueOf, type Pattern } from './catalogue.ts';

/** As it is written and dated in Britain, which is how the words are spelt. */
export const ENGLISH: Language = { tag: 'en-GB', catalogue: english, clauses: '; ' };

export const speakerFor = (language: Language): Speak => speakerOf(language, SUBJECTS);
