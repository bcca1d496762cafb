/** The words of what leaves the server for people without an interface: reports, webhooks, the command line. */
import { DomainError } from '@fastigium/contracts/errors';
import type { Part } from '@fastigium/core/messages';
import { ENGLISH, speakerFor } from '@fastigium/words';

export const speak = speakerFor(ENGLISH);

/** What an error says: one of our own its message, another what whoever threw it wrote. */
export function createTellers(error: unknown): Part {
  return error instanceof DomainError ? error.told : error instanceof Error ? error.message : String(error);
}
