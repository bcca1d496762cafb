/** Words for messages: one pattern a code, in the syntax of ICU MessageFormat. */
import type { Subject } from '@fastigium/core/messages';
import type { IntlMessageFormat } from 'intl-messageformat';

export type CatalogueOf<T> = T extends Subject<string, infer D> ? Readonly<Record<keyof D & string, string>> : never;

/** As it is written, or read already: the web application comes without the reader (`apps/web/vite.config.ts`). */
export type Pattern = ConstructorParameters<typeof IntlMessageFormat>[0];

/** By subject, then by the name of the message. */
export type Catalogue<P extends Pattern = Pattern> = Readonly<Record<string, Readonly<Record<string, P>>>>;

/** Nothing of it is syntax of ICU MessageFormat: it says what it is, and is never read. */
export const isPlain = (pattern: Pattern): pattern is string => typeof pattern === 'string' && !/[{}<']/.test(pattern);
