/** Choosing the home page. */
import { DomainError } from '@fastigium/contracts/errors';
import { fileOfAddress, freeAddress, slug } from '@fastigium/core/address';
import { siteAddress, withRemoved } from '@fastigium/core/site';
import { nameOf, pageOf, titleOf, type Prepared, type Situation } from './situation.ts';
import type { SourcePage } from '../pageFiles.ts';

export async function prepareHome(situation: Situation, request: { page: string }): Promise<Prepared> {
  const { tx, importId, draft } = situation;
  const page = await pageOf(situation, request.page);
  if (draft.notReady.has(page.id)) throw new DomainError('home-not-ready');
  if (siteAddress(draft, page) === '/') throw new DomainError('already-home');
  const front = await tx.maybeOne<{ id: string }>(
    `select page_id as id from source_file where import_id = $1 and path in ('index.html', 'index.htm') and page_id is not null order by path desc limit 1`,
    [importId],
  );
  const importedHome = front && { page: front.id, address: await formerHomeAddress(situation, front.id) };
  return { decision: { kind: 'home', page: page.id, importedHome }, words: `“${await nameOf(situation, page)}” becomes the home page` };
}

/** The page's own main heading: titles often carry the site's name as well. */
async function headingOf({ tx, importId }: Situation, page: SourcePage): Promise<string | undefined> {
  const row = await tx.maybeOne<{ text: string }>(
    `select h->>'text' as text from file_reading, jsonb_array_elements(headings) h
      where import_id = $1 and path = $2 and (h->>'level')::int = 1 limit 1`, [importId, page.sourcePath],
  );
  return row?.text || undefined;
}

/** Where the imported front page goes: where it already is, or an address made from its title. */
async function formerHomeAddress(situation: Situation, front: string): Promise<string> {
  const { tx, importId, draft } = situation;
  // It lives there even while it is removed.
  const page = await pageOf({ ...situation, draft: withRemoved(draft) }, front);
  const already = draft.addresses.get(front);
  if (already !== undefined) return already;
  const named = slug((await headingOf(situation, page)) ?? (await titleOf(situation, page)));
  // "index" would be the front page's own file in some styles of address.
  const name = named === '' || named === 'index' ? 'former-home' : named;
  // Only addresses of this shape come into question, so only their files are looked up.
  const taken = new Set(
    (await tx.many<{ path: string }>('select path from source_file where import_id = $1 and path like $2', [importId, `${name}%`])).map(({ path }) => path),
  );
  const used = new Set(draft.addresses.values());
  return freeAddress(name, (address) => {
    const file = fileOfAddress(address);
    return used.has(address) || draft.redirects.has(address) || (file !== undefined && (taken.has(file) || taken.has(address.slice(1, -1))));
  });
}
