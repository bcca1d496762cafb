export { languageTag, type LanguageTagMessage } from './messages.ts';
export { checkLanguage, type LanguageCheck } from './languages.ts';
