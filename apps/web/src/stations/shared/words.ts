/** The words of what several stations have. */
import { wordsOf } from '../../words/say.ts';
import en from './words.en.json';

export const say = wordsOf(en);
