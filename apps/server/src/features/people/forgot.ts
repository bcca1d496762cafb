/** A link to set a new password, by mail. */
import { letter } from '@fastigium/contracts/messages/letter';
import type { Mail } from '../../adapters/mail/mail.ts';
import type { Queries } from '../../db/database.ts';
import { speak } from '../../words.ts';
import { makeReset } from './passwords.ts';
import { findPersonByEmail, type Person } from './people.ts';

/**
 * @param origin where the link leads
 * @returns whose password it is; undefined where there is nobody of that address. Rejects with a DomainError `mail-failed`
 */
export async function sendForgotLink(
  queries: Queries,
  mail: Mail,
  email: string,
  origin: string,
): Promise<Person | undefined> {
  const person = await findPersonByEmail(queries, email);
  if (!person) return undefined;
  const { token } = await makeReset(queries, person.id);
  await mail.send({
    to: person.email,
    subject: speak(letter('password-subject')),
    text: [
      speak(letter('password-asked', { email: person.email })),
      `${speak(letter('password-set-here'))}\n\n  ${origin}/reset/${token}`,
      speak(letter('password-not-you')),
    ].join('\n\n'),
  });
  return person;
}
