/** Choosing the home page. */
import { decision as decided } from '@fastigium/contracts/messages/decision';
import { DomainError } from '@fastigium/contracts/errors';
import { stripAddressEnding, findFileOfAddress, findFreeAddress, makeSlug } from '@fastigium/core/address';
import { parseForReading, readDocument } from '@fastigium/core/html';
import { compilePage } from '@fastigium/core/release';
import { findPlainAddress, findSiteAddress, withRemoved } from '@fastigium/core/site';
import { readContent } from '../../shared/contents.ts';
import { planOne } from '../compileOne.ts';
import { readPagesById, type SourcePage } from '../pageFiles.ts';
import { proposeAddress, foldWith, refuseSharedAddress } from './addresses.ts';
import { readName, requirePage, readTitle, type Prepared, type Situation } from './situation.ts';

export async function prepareHome(
  situation: Situation,
  request: { page: string; formerAddress?: string | undefined },
): Promise<Prepared> {
  const { draft } = situation;
  const page = await requirePage(situation, request.page);
  if (draft.notReady.has(page.id)) throw new DomainError('home-not-ready');
  if (findSiteAddress(draft, page) === '/') throw new DomainError('already-home');
  const front = await readImportedFront(situation);
  const importedHome =
    front === undefined
      ? undefined
      : { page: front, address: await proposeFormerHomeAddress(situation, front, request.formerAddress) };
  const decision = { kind: 'home', page: page.id, importedHome } as const;
  if (request.formerAddress !== undefined) await refuseSharedAddress(situation, foldWith(situation, decision));
  return { decision, message: decided('home-set', { name: await readName(situation, page) }) };
}

/** The page that stood at the front when it was imported. */
export async function readImportedFront({
  tx,
  importId,
}: Pick<Situation, 'tx' | 'importId'>): Promise<string | undefined> {
  const row = await tx.maybeOne<{ id: string }>(
    `select page_id as id from source_file where import_id = $1 and path in ('index.html', 'index.htm') and page_id is not null order by path desc limit 1`,
    [importId],
  );
  return row?.id;
}

/** The page's own main heading, as it will be published: titles often carry the site's name as well. */
async function readHeadingNow({ tx, site, importId, draft }: Situation, page: SourcePage): Promise<string | undefined> {
  const { plan, shared } = await planOne(tx, site, { draft, importId }, page);
  const { bytes } = compilePage(plan, shared, await readContent(tx, page.hash));
  const { headings } = readDocument(parseForReading(bytes));
  return headings.find(({ level }) => level === 1)?.text || undefined;
}

/** Whether the imported front page has been given an address already, which it then keeps. */
export function hasFormerAddress({ draft }: Pick<Situation, 'draft'>, front: string): boolean {
  return draft.addresses.has(front) && draft.addresses.get(front) !== '/';
}

/** Where the imported front page goes: where it already is, where somebody wants it, or an address made from its heading. */
async function proposeFormerHomeAddress(
  situation: Situation,
  front: string,
  wanted: string | undefined,
): Promise<string> {
  const { tx, importId, draft } = situation;
  // It lives there even while it is removed.
  const standing = { ...situation, draft: withRemoved(draft) };
  const page = await requirePage(standing, front);
  const already = hasFormerAddress(situation, front) ? draft.addresses.get(front) : undefined;
  if (already !== undefined) return already;
  const end = await findUsualEnding(situation);
  if (wanted !== undefined && wanted !== '') return proposeAddress(wanted, `/x${end}`);
  const named = makeSlug((await readHeadingNow(standing, page)) ?? (await readTitle(standing, page)));
  // "index" would be the front page's own file in some styles of address.
  const name = named === '' || named === 'index' ? 'former-home' : named;
  // Only addresses of this shape come into question, so only their files are looked up.
  const taken = new Set(
    (
      await tx.many<{ path: string }>('select path from source_file where import_id = $1 and path like $2', [
        importId,
        `${name}%`,
      ])
    ).map(({ path }) => path),
  );
  const used = new Set([...draft.addresses.values()].map(stripAddressEnding));
  const free = findFreeAddress(name, (address) => {
    const file = findFileOfAddress(address);
    return (
      used.has(stripAddressEnding(address)) ||
      draft.redirects.has(address) ||
      (file !== undefined &&
        (taken.has(file) || taken.has(address.slice(1, -1)) || taken.has(`${address.slice(1, -1)}.html`)))
    );
  });
  return stripAddressEnding(free) + end;
}

/** What most pages beside the front end in, `/` or `.html`: the former home fits in. */
async function findUsualEnding({ tx, importId }: Situation): Promise<string> {
  const row = await tx.maybeOne<{ isFile: boolean }>(
    `select count(*) filter (where address like '%.html') > count(*) filter (where address like '%/') as "isFile" from source_file where import_id = $1 and page_id is not null and address <> '/' and path <> '404.html'`,
    [importId],
  );
  return row?.isFile ? '.html' : '/';
}

/** The page at the front in the draft; undefined where none is. */
export async function readHomeNow(situation: Situation): Promise<SourcePage | undefined> {
  const { tx, importId, draft } = situation;
  const id = draft.home ?? (await readImportedFront(situation));
  const page = id === undefined ? undefined : (await readPagesById(tx, importId, draft, [id])).get(id);
  return page && findPlainAddress(draft, page) === '/' ? page : undefined;
}
