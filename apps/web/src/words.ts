/** The words of messages in the language of the interface. */
import type { MenuMessage } from '@fastigium/contracts/messages/names';
import { ENGLISH, speakerFor } from '@fastigium/words';

export const speak = speakerFor(ENGLISH);

/** A menu by where it stands alone: several of one place belong to several languages, which rows show themselves. */
export function speakPlaceOf({ code, parameters }: MenuMessage): string {
  return 'menu' in parameters ? speakPlaceOf(parameters.menu as MenuMessage) : speak({ code, parameters });
}
