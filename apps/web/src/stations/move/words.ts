/** The words of this station. */
import { useWords } from '../../words/say.ts';
import en from './words.en.json';

export const say = useWords(en);
