/** Where pages, groups and outside links stand, and which are added here. */
import type { MutableDraft } from '../draft.ts';
import type { AddedNode, Addresses, Place } from '../nodes.ts';
import type { PageId } from '../pageId.ts';
import { listAddressSubjects, readdress } from './addresses.ts';
import { setHead } from './head.ts';
import type { KindsOf } from './kind.ts';
import { unsettle } from './redirects.ts';

export type TreeDecision =
  /** A page, group or outside link put elsewhere in the tree; where its parent changed, addresses follow. */
  | { readonly kind: 'place'; readonly node: PageId; readonly place: Place; readonly addresses: Addresses }
  | {
      readonly kind: 'node-added';
      readonly node: AddedNode;
      readonly place: Place;
      /** Of a copy, since its source has the other page's. */
      readonly title?: string;
      /** Old addresses that it answers itself again. */
      readonly unsettled?: readonly string[];
    }
  /** Groups and outside links; what they held moves up. In histories from before removals could be put back. */
  | { readonly kind: 'node-removed'; readonly node: PageId };

export const treeKinds: KindsOf<TreeDecision> = {
  place: {
    subjects: ({ node, addresses }) => [`place ${node}`, ...listAddressSubjects(addresses)],
    apply(draft, { node, place, addresses }) {
      draft.places.push([node, place]);
      readdress(draft, addresses);
    },
  },
  'node-added': {
    subjects: () => [],
    apply(draft, { node, place, title, unsettled = [] }, { seq }) {
      draft.nodes.set(node.id, node);
      draft.places.push([node.id, place]);
      if (title !== undefined) draft.titles.set(node.id, title);
      for (const from of unsettled) unsettle(draft, from);
      if (node.kind !== 'page') return;
      draft.addresses.set(node.id, node.address);
      if (node.copyOf === undefined) return;
      copyTouches(draft, node.copyOf, node.id, seq);
      copyHead(draft, node.copyOf, node.id);
    },
  },
  'node-removed': {
    subjects: ({ node }) => [`node ${node}`],
    apply: (draft, { node }, { seq }) => draft.removed.set(node, seq),
  },
};

/** Numbered between their decision and the next one, so that each keeps a number of its own. */
function copyTouches(draft: MutableDraft, from: PageId, to: PageId, seq: number): void {
  const copied = [...draft.touches.values()].filter(({ scope }) => scope.kind === 'page' && scope.page === from);
  copied.forEach((touch, index) =>
    draft.touches.set(seq + (index + 1) / (copied.length + 1), { ...touch, scope: { kind: 'page', page: to } }),
  );
}

/** A copy begins with what was set for its page, but is no translation of what that one translates. */
function copyHead(draft: MutableDraft, from: PageId, to: PageId): void {
  for (const setting of [...draft.head.values()]) {
    if (setting.scope.kind === 'page' && setting.scope.page === from && setting.name !== 'translates')
      setHead(draft, { ...setting, scope: { kind: 'page', page: to } });
  }
}
