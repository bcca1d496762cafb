/** Text inside other notations, where it means only itself. */

/** Inside a regular expression, of ECMAScript with the u flag (ECMA-262, SyntaxCharacter) as well as of PCRE. */
export const escapeExpression = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/** As one argument of a directive: nginx and Apache both read a backslash before a quotation mark or another backslash. */
export const quoteInDirective = (text: string): string => `"${escapeQuotes(text)}"`;

/** Between two quotation marks that are there already. */
export const escapeQuotes = (text: string): string => text.replace(/[\\"]/g, '\\$&');
