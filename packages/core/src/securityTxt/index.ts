export { securityTxt, type SecurityTxtMessage } from './messages.ts';
export { checkSecurityTxt, type TextProblem } from './check.ts';
