/** What is taken out, put back, held and swept. */
import type { PutBack, Removed, Swept } from '../removal.ts';
import { hold, putBack, remove, sweep } from '../removals.ts';
import { listAddressSubjects, readdress } from './addresses.ts';
import type { KindsOf } from './kind.ts';
import { namePatternSubject, nameRedirectSubject, settle, unsettle } from './redirects.ts';

export type RemovalDecision =
  | Removed
  | PutBack
  | Swept
  /** No sweep takes them. */
  | { readonly kind: 'removals-held'; readonly of: readonly number[]; readonly reason: string }
  | { readonly kind: 'removals-freed'; readonly of: readonly number[] };

/** By the number of the decision that removed something. */
export const nameRemovalSubject = (seq: number): string => `removal ${seq}`;

export const removalKinds: KindsOf<RemovalDecision> = {
  removed: {
    changesKeeping: true,
    subjects: listRemovedSubjects,
    apply: (draft, decision, { seq, folding }) => remove(draft, folding, decision, seq),
  },
  'put-back': {
    changesKeeping: true,
    subjects: ({ things, addresses, home }) => [
      ...things.map(({ of: removal }) => nameRemovalSubject(removal)),
      ...listAddressSubjects(addresses),
      ...(home ? ['home'] : []),
    ],
    apply(draft, decision, { folding }) {
      putBack(draft, folding, decision);
      for (const { node, place } of decision.places) draft.places.push([node, place]);
      readdress(draft, decision.addresses);
      for (const from of decision.unsettled) unsettle(draft, from);
    },
  },
  swept: {
    isFact: true,
    subjects: ({ of: removals, redirects }) => [
      ...removals.map(nameRemovalSubject),
      ...redirects.map(({ from }) => nameRedirectSubject(from)),
    ],
    apply(draft, decision, { seq, folding }) {
      sweep(draft, folding, decision);
      for (const redirect of decision.redirects) if (!draft.redirects.has(redirect.from)) settle(draft, redirect, seq);
    },
  },
  'removals-held': {
    changesKeeping: true,
    subjects: ({ of: removals }) => removals.map(nameRemovalSubject),
    apply: (draft, { of: removals, reason }, { seq }) => hold(draft, removals, { reason, seq }),
  },
  'removals-freed': {
    changesKeeping: true,
    subjects: ({ of: removals }) => removals.map(nameRemovalSubject),
    apply: (draft, { of: removals }) => hold(draft, removals, undefined),
  },
};

function listRemovedSubjects({ thing, menu, home }: Removed): string[] {
  const ofHome = home ? ['home'] : [];
  switch (thing.kind) {
    case 'nodes':
      return [...ofHome, ...thing.nodes.map((node) => `node ${node}`)];
    case 'section':
      return [`section ${thing.page} ${JSON.stringify(thing.section)}`];
    case 'file':
      return [`file ${thing.path}`];
    case 'menu-item':
      return menu ? [`menu ${thing.menu}`] : [];
    case 'redirects':
      return [...thing.froms.map(nameRedirectSubject), ...thing.patterns.map(namePatternSubject)];
  }
}
