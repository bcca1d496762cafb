/** The words of what several stations have. */
import { useWords } from '../../words/say.ts';
import en from './words.en.json';

export const say = useWords(en);
