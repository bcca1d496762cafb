/** That files came: of a newer export, or of a running site. */
import type { AddedNode, Addresses } from '../nodes.ts';
import type { PageId } from '../pageId.ts';
import { EVERYTHING, type KindsOf } from './kind.ts';

export type ExportDecision =
  /** A newer export was applied; pages known again under another address keep the one they had. */
  | {
      readonly kind: 'export-taken';
      readonly import: string;
      readonly former: Addresses;
      /** Removed pages the newer export has not; their sources are kept for putting back. */
      readonly kept?: readonly AddedNode[];
      /** Pages kept so before that it has again. */
      readonly again?: readonly PageId[];
    }
  /** Pages came from a running site, which answered with them at these addresses, from its root on. */
  | {
      readonly kind: 'crawled';
      readonly import: string;
      readonly from: Readonly<Record<PageId, readonly string[]>>;
      /** Paths of its other files, by the address each answered at where that is not its own. */
      readonly files: Readonly<Record<string, string>>;
    };

export const exportKinds: KindsOf<ExportDecision> = {
  'export-taken': {
    isFact: true,
    subjects: () => [EVERYTHING],
    apply(draft, { former, kept = [], again = [] }) {
      for (const page of again) draft.nodes.delete(page);
      for (const node of kept) {
        draft.nodes.set(node.id, node);
        if (node.kind === 'page' && !draft.addresses.has(node.id)) draft.addresses.set(node.id, node.address);
      }
      for (const [page, address] of Object.entries(former)) {
        draft.formerAddresses.set(page, new Set(draft.formerAddresses.get(page)).add(address));
        draft.exportAddresses.set(page, new Set(draft.exportAddresses.get(page)).add(address));
      }
    },
  },
  crawled: {
    isFact: true,
    subjects: () => [EVERYTHING],
    apply(draft, { from, files }) {
      for (const [page, addresses] of Object.entries(from))
        draft.crawledFrom.set(page, new Set([...(draft.crawledFrom.get(page) ?? []), ...addresses]));
      draft.crawledFiles.clear();
      for (const [address, path] of Object.entries(files)) draft.crawledFiles.set(address, path);
    },
  },
};
