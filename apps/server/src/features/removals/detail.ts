/** One removal with all that went with it. */
import { thing as named } from '@fastigium/contracts/messages/names';
import { menuPart } from '@fastigium/contracts/messages/removal';
import type { RemovalDetail } from '@fastigium/contracts/api/removals';
import { findAddressOfFile } from '@fastigium/core/address';
import { parsePage, findSectionNamed } from '@fastigium/core/html';
import { walkItems, type MenuItem } from '@fastigium/core/menus';
import { findDraftAddress, isOut, type Removal } from '@fastigium/core/site';
import type { Deps } from '../../deps.ts';
import { readContent } from '../shared/contents.ts';
import { findMenuItems, readPagesOfItems, readSiteMenus } from '../draft/menus.ts';
import { readPagesById } from '../draft/pageFiles.ts';
import { requireRemoval } from '../draft/prepare/putBack.ts';
import { readText } from '../draft/sectionsNow.ts';
import { readKnown, type Known } from './list.ts';
import { openDraft } from '../draft/openDraft.ts';

/** More than anybody looks through; the count is said beside it. */
const MOST_SHOWN = 5000;
const TEXT_LETTERS = 2000;

export async function readRemovalDetail({ db }: Deps, site: string, removalSeq: number): Promise<RemovalDetail> {
  const { draft, importId, decisions } = await openDraft(db, site);
  const removal = requireRemoval({ draft, decisions }, removalSeq);
  const known = await readKnown(db, importId, draft);
  const menus = await readSiteMenus(db, importId);
  const pageAt = await readPagesOfItems(db, importId, menus);
  const nodes = new Set(removal.left);
  const lost = menus.flatMap((menu) => {
    const items = [...walkItems<MenuItem>(findMenuItems(draft, menu, pageAt))].filter(
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
    thing.kind === 'section' ? (await readPagesById(db, importId, draft, [thing.page])).get(thing.page) : undefined;
  return {
    of: removalSeq,
    bundle: describeBundle(known, removal).slice(0, MOST_SHOWN),
    menus: lost,
    links: removal.links,
    text: page && thing.kind === 'section' ? readSectionText(await readContent(db, page.hash), thing.section) : null,
  };
}

function describeBundle({ draft, byId, nameOf }: Known, { thing, redirects, seq }: Removal): RemovalDetail['bundle'] {
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
          address: file ? findDraftAddress(draft, file) : null,
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
          address: draft.basePath + findAddressOfFile(thing.path),
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

function readSectionText(
  bytes: Uint8Array,
  { name, nth }: { readonly name: string; readonly nth: number },
): string | null {
  const document = parsePage(bytes);
  const section = findSectionNamed(document, { name, nth });
  if (!section) return null;
  return readText(document.source.text.slice(section.start, section.end)).slice(0, TEXT_LETTERS);
}
