/** The words of this station. */
import { wordsOf } from '../../words/say.ts';
import en from './words.en.json';

export const say = wordsOf(en);
