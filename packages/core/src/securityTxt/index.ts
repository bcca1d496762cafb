export { checkSecurityTxt, type TextProblem } from './check.ts';
