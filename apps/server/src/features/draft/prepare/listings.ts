/** Listing pages: the page that lists a branch's dated entries. */
import { decision as decided } from '@fastigium/contracts/messages/decision';
import { DomainError } from '@fastigium/contracts/errors';
import type { Draft } from '@fastigium/core/site';
import { readName, requirePage, type Prepared, type Situation } from './situation.ts';

export async function prepareListing(
  situation: Situation,
  request: { page: string; perPage: number },
): Promise<Prepared> {
  const page = await requirePage(situation, request.page);
  return {
    decision: { kind: 'listing', page: page.id, perPage: request.perPage },
    message: decided('listing-set', { name: await readName(situation, page), perPage: request.perPage }),
  };
}

export async function prepareListingRemoved(situation: Situation, id: string): Promise<Prepared> {
  if (!situation.draft.listings.has(id)) throw new DomainError('not-found', { what: 'listing' });
  return {
    decision: { kind: 'listing-removed', page: id },
    message: decided('listing-removed', { name: await readName(situation, await requirePage(situation, id)) }),
  };
}

/** Only a list has a newest entry. */
export function refuseNoListing(
  { listings }: Draft,
  target: { readonly kind: string; readonly page?: string; readonly newest?: true | undefined },
): void {
  if (target.newest === true && !listings.has(target.page ?? '')) throw new DomainError('no-listing');
}
