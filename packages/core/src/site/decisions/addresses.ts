/** Where pages answer: home, addresses, how they are written, and the path the whole site is under. */
import type { AddressStyle } from '../../address/index.ts';
import type { MutableDraft } from '../draft.ts';
import { setHome } from '../home.ts';
import type { Addresses, HomeChoice } from '../nodes.ts';
import type { PageId } from '../pageId.ts';
import type { KindsOf } from './kind.ts';

export type AddressDecision =
  | ({ readonly kind: 'home' } & HomeChoice)
  /** A page renamed, with all pages that move along. */
  | { readonly kind: 'address'; readonly page: PageId; readonly addresses: Addresses }
  | { readonly kind: 'address-style'; readonly style: AddressStyle }
  /** `/museum`: the site is published under that path; empty: at the root. */
  | { readonly kind: 'base-path'; readonly path: string };

export const addressKinds: KindsOf<AddressDecision> = {
  home: {
    subjects: ({ page }) => ['home', `address ${page}`],
    apply: (draft, choice, { folding }) => setHome(draft, choice, folding.homeReturns),
  },
  address: {
    subjects: ({ addresses }) => listAddressSubjects(addresses),
    apply: (draft, { addresses }) => readdress(draft, addresses),
  },
  'address-style': {
    subjects: () => ['style'],
    apply(draft, { style }) {
      draft.formerStyles.add(draft.style);
      draft.formerStyles.delete(style);
      draft.style = style;
    },
  },
  'base-path': {
    subjects: () => ['base-path'],
    apply(draft, { path }) {
      draft.formerBasePaths.add(draft.basePath);
      draft.formerBasePaths.delete(path);
      draft.basePath = path;
    },
  },
};

export const listAddressSubjects = (addresses: Addresses): string[] =>
  Object.keys(addresses).map((page) => `address ${page}`);

/** What a page was called before goes on leading to it. */
export function readdress(draft: MutableDraft, addresses: Addresses): void {
  for (const [page, address] of Object.entries(addresses)) {
    const before = draft.addresses.get(page);
    if (before !== undefined) draft.formerAddresses.set(page, new Set(draft.formerAddresses.get(page)).add(before));
    draft.addresses.set(page, address);
  }
}
