/** Who may visit. What is typed as a password is hashed here, and what the history keeps is the hash. */
import bcrypt from 'bcryptjs';
import type { DecisionRequest } from '@fastigium/contracts/api/draft';
import { DomainError } from '@fastigium/contracts/errors';
import type { Entry } from '@fastigium/core/access';
import { isOut, siteAddress } from '@fastigium/core/site';
import { today } from '../../shared/today.ts';
import { keepPassword } from '../../shared/visitorPasswords.ts';
import { nameOf, pageOf, type Prepared, type Situation } from './situation.ts';

type Request<K extends DecisionRequest['kind']> = Extract<DecisionRequest, { kind: K }>;

/** Rounds as a power of two: some 60 ms a try on today's machines (common practice, no source). */
const BCRYPT_COST = 10;

export async function prepareEntry(situation: Situation, { place, entry: asked }: Request<'entry'>): Promise<Prepared> {
  const { draft } = situation;
  const where = place === null ? 'the site' : await branchWords(situation, place);
  const was = draft.entries.get(place);
  if (asked === null) {
    if (!was) throw new DomainError('entry-same');
    return {
      decision: { kind: 'entry', place, entry: undefined },
      words: place === null ? 'Everyone may visit the site' : `Whoever may visit the site may visit ${where}`,
    };
  }
  if (asked.kind !== 'password' && asked.kind === (was?.kind ?? (place === null ? 'everyone' : undefined)))
    throw new DomainError('entry-same');
  const entry = asked.kind === 'password' ? await passworded(situation, asked) : asked;
  const words = {
    everyone: `Everyone may visit ${where}`,
    nobody: `Nobody may visit ${where} yet`,
    password: `Those with a password may visit ${where}`,
  }[asked.kind];
  return { decision: { kind: 'entry', place, entry }, words };
}

async function branchWords(situation: Situation, place: string): Promise<string> {
  const page = await pageOf(situation, place);
  if (siteAddress(situation.draft, page) === '/') throw new DomainError('entry-of-home');
  return `“${await nameOf(situation, page)}” and what is below it`;
}

async function passworded(
  { tx, deps, site }: Situation,
  { user, password }: { readonly user: string; readonly password: string },
): Promise<Entry> {
  const hash = await bcrypt.hash(password, BCRYPT_COST);
  await keepPassword(tx, deps, { site, hash, password });
  return { kind: 'password', user, hash };
}

export async function prepareShownInstead(
  situation: Situation,
  { page: id }: Request<'shown-instead'>,
): Promise<Prepared> {
  const { draft } = situation;
  if (id === (draft.shownInstead ?? null)) throw new DomainError('entry-same');
  if (id === null)
    return { decision: { kind: 'shown-instead', page: undefined }, words: 'No page is shown in place of the site' };
  const page = await pageOf(situation, id);
  if (draft.notReady.has(id) || isOut(draft, id)) throw new DomainError('home-not-ready');
  return {
    decision: { kind: 'shown-instead', page: id },
    words: `“${await nameOf(situation, page)}” is shown where nobody may visit`,
  };
}

export function prepareLastDay({ draft, deps }: Situation, { day }: Request<'last-day'>): Prepared {
  if (day === (draft.lastDay ?? null)) throw new DomainError('entry-same');
  if (day === null) return { decision: { kind: 'last-day', day: undefined }, words: 'The site stays up' };
  if (day < today(deps)) throw new DomainError('last-day-past', { day });
  return { decision: { kind: 'last-day', day }, words: `The site comes down after ${day}` };
}
