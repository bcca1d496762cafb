/** A link to set a new password, by mail. */
import type { Mail } from '../../adapters/mail/mail.ts';
import type { Queries } from '../../db/database.ts';
import { makeReset } from './passwords.ts';
import { personByEmail, type Person } from './people.ts';

/**
 * @param origin where the link leads
 * @returns whose password it is; undefined where there is nobody of that address. Rejects with a DomainError `mail-failed`
 */
export async function forgot(queries: Queries, mail: Mail, email: string, origin: string): Promise<Person | undefined> {
  const person = await personByEmail(queries, email);
  if (!person) return undefined;
  const { token } = await makeReset(queries, person.id);
  await mail.send({
    to: person.email,
    subject: 'A new password for Fastigium',
    text: [
      `Somebody, we hope you, asked for a new password for ${person.email}.`,
      `Set it here within an hour:\n\n  ${origin}/reset/${token}`,
      'If it was not you, nothing has changed, and you need do nothing.',
    ].join('\n\n'),
  });
  return person;
}
