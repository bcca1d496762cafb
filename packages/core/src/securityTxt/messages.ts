/** What is wrong with a security.txt. */
import { defineMessages, type MessageOf } from '../messages/index.ts';

export const securityTxt = defineMessages('security-txt', {
  'not-a-field': {},
  'field-twice': { field: 'text', line: 'number' },
  'no-address': { field: 'text' },
  'not-https': { field: 'text' },
  'no-date': {},
  expired: {},
  'field-missing': { field: 'text' },
  'in-line': { line: 'number', problem: 'message' },
});
export type SecurityTxtMessage = MessageOf<typeof securityTxt>;
