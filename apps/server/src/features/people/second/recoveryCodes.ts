/** Codes that are written down, for whoever has lost their second factor. */
import { randomInt } from 'node:crypto';
import type { Queries } from '../../../db/database.ts';
import { hashSha256 } from '../../../threads/tasks.ts';

const RECOVERY_CODES = 10;
/** Letters and digits that are not taken for each other; 31 of them, so twelve are worth 59 bits. */
const RECOVERY_ALPHABET = 'abcdefghjkmnpqrstuvwxyz23456789';
const RECOVERY_CHARS = 12;

export async function countRecoveryCodes(queries: Queries, person: string): Promise<number> {
  const { left } = await queries.one<{ left: number }>(
    'select count(*)::int as left from recovery_code where person_id = $1',
    [person],
  );
  return left;
}

export async function makeRecoveryCodes(tx: Queries, person: string): Promise<string[]> {
  const codes = Array.from({ length: RECOVERY_CODES }, () => {
    const letters = Array.from(
      { length: RECOVERY_CHARS },
      () => RECOVERY_ALPHABET[randomInt(RECOVERY_ALPHABET.length)] ?? '',
    ).join('');
    return letters.replace(/(.{4})(?=.)/g, '$1-');
  });
  await tx.run('delete from recovery_code where person_id = $1', [person]);
  await tx.run('insert into recovery_code (person_id, code_hash) select $1, unnest($2::text[])', [
    person,
    codes.map(hashRecovery),
  ]);
  return codes;
}

/** As somebody may type it. */
const hashRecovery = (code: string): string => hashSha256(code.toLowerCase().replace(/[^a-z0-9]/g, ''));

/** With the first factor come the codes for whoever loses it. */
export async function createFirstRecoveryCodes(tx: Queries, person: string): Promise<string[] | null> {
  return (await countRecoveryCodes(tx, person)) === 0 ? makeRecoveryCodes(tx, person) : null;
}

/** Whether it was one, which it is no more. */
export async function useRecoveryCode(tx: Queries, person: string, code: string): Promise<boolean> {
  const used = await tx.run('delete from recovery_code where person_id = $1 and code_hash = $2', [
    person,
    hashRecovery(code),
  ]);
  return used === 1;
}
