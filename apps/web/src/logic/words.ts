/** The words of this folder. */
import { sayWith } from '../words/say.ts';
import en from './words.en.json';

export const say = sayWith(en);
