export { checkLanguage, type LanguageCheck } from './languages.ts';
