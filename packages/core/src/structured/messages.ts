/** What is wrong with structured data. */
import { defineMessages, type MessageOf } from '../messages/index.ts';

export const structured = defineMessages('structured', {
  'not-json-empty': {},
  'not-json-end': {},
  'not-json-deep': {},
  'not-json-at': { line: 'number', letter: 'number' },
  'no-object': {},
  'no-context': {},
  'no-type': {},
  'type-unknown': { type: 'text' },
  'type-mistyped': { type: 'text', near: 'text' },
  'property-unknown': { property: 'text' },
  'property-mistyped': { property: 'text', near: 'text' },
  'property-elsewhere': { property: 'text', types: 'alternatives' },
  'value-of-other-type': { property: 'text', allowed: 'alternatives', type: 'text' },
  'value-empty': {},
  'value-unlike': { value: 'text', allowed: 'alternatives' },
});
export type StructuredMessage = MessageOf<typeof structured>;
