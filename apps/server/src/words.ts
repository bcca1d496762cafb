/** The words of what leaves the server for people without an interface: reports, webhooks, the command line. */
import { ENGLISH, speakerFor } from '@fastigium/words';

export const speak = speakerFor(ENGLISH);
