/** Lines of the head as labels. */
import { lineMessage } from '@fastigium/core/head';
import { speak } from '../../words/index.ts';

export function lineTitle(name: string): string {
  const words = speak(lineMessage(name));
  return words.charAt(0).toUpperCase() + words.slice(1);
}
