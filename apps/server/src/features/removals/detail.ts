/** One removal with all that went with it. */
import { thing as named } from '@fastigium/contracts/messages/names';
import { menuPart } from '@fastigium/contracts/messages/removal';
import type { RemovalDetail } from '@fastigium/contracts/api/removals';
import { addressOfFile } from '@fastigium/core/address';
import { parsePage, sectionNamed } from '@fastigium/core/html';
import { allItems, type MenuItem } from '@fastigium/core/menus';
import { draftAddress, isOut, type Removal } from '@fastigium/core/site';
import type { Deps } from '../../deps.ts';
import { contentBytes } from '../shared/contents.ts';
import { itemsOf, pagesOfItems, siteMenus } from '../draft/menus.ts';
import { pagesById } from '../draft/pageFiles.ts';
import { removalOf } from '../draft/prepare/putBack.ts';
import { readText } from '../draft/sectionsNow.ts';
import { knownOf, type Known } from './list.ts';
import { openDraft } from '../draft/openDraft.ts';

/** More than anybody looks through; the count is said beside it. */
const MOST_SHOWN = 5000;
const TEXT_LETTERS = 2000;

export async function removalDetail({ db }: Deps, site: string, removalSeq: number): Promise<RemovalDetail> {
  const { draft, importId, decisions } = await openDraft(db, site);
  const removal = removalOf({ draft, decisions }, removalSeq);
  const known = await knownOf(db, importId, draft);
  const menus = await siteMenus(db, importId);
  const pageAt = await pagesOfItems(db, importId, menus);
  const nodes = new Set(removal.left);
  const lost = menus.flatMap((menu) => {
    const items = [...allItems<MenuItem>(itemsOf(draft, menu, pageAt))].filter(
      ({ target, removed }) => (target.kind === 'page' && nodes.has(target.page)) || removed === removalSeq,
    );
    return items.length === 0
      ? []
      : [
          menuPart('items', {
            menu: known.menuNames.get(menu.id) ?? '',
            items: items.map(({ label }) => named('named', { label })),
          }),
        ];
  });
  const { thing } = removal;
  const page =
    thing.kind === 'section' ? (await pagesById(db, importId, draft, [thing.page])).get(thing.page) : undefined;
  return {
    of: removalSeq,
    bundle: bundleOf(known, removal).slice(0, MOST_SHOWN),
    menus: lost,
    links: removal.links,
    text: page && thing.kind === 'section' ? sectionText(await contentBytes(db, page.hash), thing.section) : null,
  };
}

function bundleOf({ draft, byId, nameOf }: Known, { thing, redirects, seq }: Removal): RemovalDetail['bundle'] {
  switch (thing.kind) {
    case 'nodes': {
      const top = byId.get(thing.nodes[0] ?? '')?.depth ?? 0;
      return thing.nodes.map((id) => {
        const row = byId.get(id);
        const node = draft.nodes.get(id);
        const file = row?.page.file;
        return {
          id,
          kind: node && node.kind !== 'page' ? node.kind : 'page',
          label: nameOf(id),
          address: file ? draftAddress(draft, file) : null,
          depth: Math.max(0, (row?.depth ?? top) - top),
          isOut: isOut(draft, id),
        };
      });
    }
    case 'section':
      return [
        { id: thing.section.name, kind: 'section', label: thing.section.name, address: null, depth: 0, isOut: true },
      ];
    case 'file':
      return [
        {
          id: thing.path,
          kind: 'file',
          label: `/${thing.path}`,
          address: draft.basePath + addressOfFile(thing.path),
          depth: 0,
          isOut: true,
        },
      ];
    case 'menu-item':
      return [{ id: thing.label, kind: 'menu item', label: thing.label, address: null, depth: 0, isOut: true }];
    case 'redirects':
      return [
        ...redirects.map(({ redirect }) => ({
          id: redirect.from,
          kind: 'redirect' as const,
          label: redirect.from,
          address: redirect.from,
          depth: 0,
          isOut: !draft.redirects.has(redirect.from),
        })),
        ...[...draft.removedPatterns]
          .filter(([, each]) => each.removal === seq)
          .map(([id, { pattern }]) => ({
            id,
            kind: 'pattern' as const,
            label: pattern.text,
            address: null,
            depth: 0,
            isOut: true,
          })),
      ];
  }
}

function sectionText(bytes: Uint8Array, { name, nth }: { readonly name: string; readonly nth: number }): string | null {
  const document = parsePage(bytes);
  const section = sectionNamed(document, { name, nth });
  if (!section) return null;
  return readText(document.source.text.slice(section.start, section.end)).slice(0, TEXT_LETTERS);
}
