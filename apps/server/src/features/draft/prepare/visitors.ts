/** Who may visit. What is typed as a password is hashed here, and what the history keeps is the hash. */
import { decision as decided } from '@fastigium/contracts/messages/decision';
import bcrypt from 'bcryptjs';
import type { DecisionRequest } from '@fastigium/contracts/decisions/request';
import { DomainError } from '@fastigium/contracts/errors';
import { where } from '@fastigium/contracts/messages/names';
import type { Entry } from '@fastigium/core/access';
import type { Message } from '@fastigium/core/messages';
import { isOut, findSiteAddress } from '@fastigium/core/site';
import { readToday } from '../../shared/today.ts';
import { keepPassword } from '../../shared/visitorPasswords.ts';
import { readName, requirePage, type Prepared, type Situation } from './situation.ts';

type Request<K extends DecisionRequest['kind']> = Extract<DecisionRequest, { kind: K }>;

/** Rounds as a power of two: some 60 ms a try on today's machines (common practice, no source). */
const BCRYPT_COST = 10;

export async function prepareEntry(situation: Situation, { place, entry: asked }: Request<'entry'>): Promise<Prepared> {
  const { draft } = situation;
  const within = place === null ? where('the-site') : await describeBranch(situation, place);
  const was = draft.entries.get(place);
  if (asked === null) {
    if (!was) throw new DomainError('entry-same');
    return {
      decision: { kind: 'entry', place, entry: undefined },
      message:
        place === null
          ? decided('entry-set', { who: 'everyone', where: within })
          : decided('entry-removed', { where: within }),
    };
  }
  if (asked.kind !== 'password' && asked.kind === (was?.kind ?? (place === null ? 'everyone' : undefined)))
    throw new DomainError('entry-same');
  const entry = asked.kind === 'password' ? await hashPassword(situation, asked) : asked;
  return {
    decision: { kind: 'entry', place, entry },
    message: decided('entry-set', { who: asked.kind, where: within }),
  };
}

async function describeBranch(situation: Situation, place: string): Promise<Message> {
  const page = await requirePage(situation, place);
  if (findSiteAddress(situation.draft, page) === '/') throw new DomainError('entry-of-home');
  return where('page-and-below', { name: await readName(situation, page) });
}

async function hashPassword(
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
    return { decision: { kind: 'shown-instead', page: undefined }, message: decided('not-shown-instead') };
  const page = await requirePage(situation, id);
  if (draft.notReady.has(id) || isOut(draft, id)) throw new DomainError('home-not-ready');
  return {
    decision: { kind: 'shown-instead', page: id },
    message: decided('shown-instead', { name: await readName(situation, page) }),
  };
}

export function prepareLastDay({ draft, deps }: Situation, { day }: Request<'last-day'>): Prepared {
  if (day === (draft.lastDay ?? null)) throw new DomainError('entry-same');
  if (day === null) return { decision: { kind: 'last-day', day: undefined }, message: decided('last-day-removed') };
  if (day < readToday(deps)) throw new DomainError('last-day-past', { day });
  return { decision: { kind: 'last-day', day }, message: decided('last-day-set', { day }) };
}
