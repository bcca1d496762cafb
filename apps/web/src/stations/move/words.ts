/** The words of this station. */
import { sayWith } from '../../words/say.ts';
import en from './words.en.json';

export const say = sayWith(en);
