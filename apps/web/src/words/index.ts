/** The words of messages in the language of the interface. */
import { DomainError, errorFrom, type KeptError } from '@fastigium/contracts/errors';
import type { MenuMessage } from '@fastigium/contracts/messages/names';
import { MISSING, speakerOfEntrance } from '@fastigium/words/entrance';

/** Knows no message yet: they are learnt with the first site, by `ofSites.ts`. Until then errors are said as they came. */
export const speak = speakerOfEntrance();

/** A menu by where it stands alone: several of one place belong to several languages, which rows show themselves. */
export function sayMenuPlace({ code, parameters }: MenuMessage): string {
  return 'menu' in parameters ? sayMenuPlace(parameters.menu as MenuMessage) : speak({ code, parameters });
}

/** What went wrong and what to do next, of whatever was thrown. */
export function explain(error: unknown): string {
  if (error instanceof DomainError) {
    const words = speak(error.told);
    return words === error.told.code ? (error.said ?? words) : words;
  }
  return error instanceof Error ? error.message : String(error);
}

/** What a message begins with, as far as nothing fills it; undefined where something does, and of what is not known. */
export function findFirstClause(code: string): string | undefined {
  const words = speak({ code, parameters: {} });
  const [clause = ''] = words === code ? [] : words.split(/[.:;]/);
  return clause === '' || clause.includes(MISSING) ? undefined : clause;
}

export const explainKept = (error: KeptError): string => explain(errorFrom(error));
