/** The words of this folder. */
import { wordsOf } from '../words/say.ts';
import en from './words.en.json';

export const say = wordsOf(en);
