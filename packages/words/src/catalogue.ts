/** Words for messages: one pattern a code, in the syntax of ICU MessageFormat. */
import type { Subject } from '@fastigium/core/messages';

export type CatalogueOf<T> = T extends Subject<string, infer D> ? Readonly<Record<keyof D & string, string>> : never;

/** By subject, then by the name of the message. */
export type Catalogue = Readonly<Record<string, Readonly<Record<string, string>>>>;
