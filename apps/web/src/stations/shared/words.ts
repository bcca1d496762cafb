/** The words of what several stations have. */
import { sayWith } from '../../words/say.ts';
import en from './words.en.json';

export const say = sayWith(en);
