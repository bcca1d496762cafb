/** The words of what leaves the server for people without an interface: reports, webhooks, the command line. */
import { DomainError } from '@fastigium/contracts/errors';
import type { Part } from '@fastigium/core/messages';
import { ENGLISH, speakerFor } from '@fastigium/words';

export const speak = speakerFor(ENGLISH);

/** Of what is said here (BCP 47). */
export const LANGUAGE_TAG = ENGLISH.tag;

export const formatFigure = (n: number): string => n.toLocaleString(LANGUAGE_TAG);

/** What an error says: one of our own its message, another what whoever threw it wrote. */
export function explainError(error: unknown): Part {
  return error instanceof DomainError ? error.told : error instanceof Error ? error.message : String(error);
}
