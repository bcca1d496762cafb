/** Lines of the head as labels. */
import { lineWords } from '@fastigium/core/head';

export function lineTitle(name: string): string {
  const words = lineWords(name);
  return words.charAt(0).toUpperCase() + words.slice(1);
}
