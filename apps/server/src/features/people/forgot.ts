/** A link to set a new password, by mail. */
import { DomainError } from '@fastigium/contracts/errors';
import type { Deps } from '../../deps.ts';
import { makeReset } from './passwords.ts';
import { personByEmail, type Person } from './people.ts';

/**
 * The mail goes out behind the answer, which says the same and takes as long whether there is somebody or not.
 *
 * @param origin where the link leads
 * @returns whose password it is; undefined where there is nobody of that address
 */
export async function forgot(deps: Deps, email: string, origin: string): Promise<Person | undefined> {
  const { mail, db } = deps;
  if (!mail) throw new DomainError('mail-not-set');
  const person = await personByEmail(db, email);
  if (!person) return undefined;
  const { token } = await makeReset(db, person.id);
  void mail
    .send({
      to: person.email,
      subject: 'A new password for Fastigium',
      text: [
        `Somebody, we hope you, asked for a new password for ${person.email}.`,
        `Set it here within an hour:\n\n  ${origin}/reset/${token}`,
        'If it was not you, nothing has changed, and you need do nothing.',
      ].join('\n\n'),
    })
    .catch((error: unknown) => deps.log.error({ err: error }, 'mail for a new password not sent'));
  return person;
}
