/** Lines of the head as labels. */
import { createLineMessage } from '@fastigium/core/head';
import { speak } from '../../words/index.ts';

export function nameLine(name: string): string {
  const words = speak(createLineMessage(name));
  return words.charAt(0).toUpperCase() + words.slice(1);
}
