/** Why somebody asked did not answer, without the sentence of the error around it. */
import type { DomainError } from '@fastigium/contracts/errors';
import { part } from '@fastigium/contracts/messages/schema';
import type { Part } from '@fastigium/core/messages';

export function describeReason({ details, told: message }: DomainError): Part {
  const detail = part.safeParse(details['detail']);
  return detail.success ? detail.data : message;
}
