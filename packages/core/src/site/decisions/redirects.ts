/** Where old addresses lead. */
import type { PatternRedirect, Redirect } from '../../redirects/index.ts';
import type { MutableDraft } from '../draft.ts';
import { orderPatterns, setPattern } from '../patternOrder.ts';
import type { KindsOf } from './kind.ts';

export type RedirectDecision =
  | { readonly kind: 'redirect'; readonly redirect: Redirect }
  /** Many at once, in one step that can be taken back: what is settled, and addresses that are open again. */
  | {
      readonly kind: 'redirects';
      readonly redirects: readonly Redirect[];
      readonly removed: readonly string[];
      readonly patterns?: readonly { readonly id: string; readonly pattern: PatternRedirect }[];
    }
  | { readonly kind: 'redirect-removed'; readonly from: string }
  /** A new pattern behind all others, or another form of one, in its place. */
  | { readonly kind: 'pattern'; readonly id: string; readonly pattern: PatternRedirect }
  | { readonly kind: 'pattern-removed'; readonly id: string }
  /** All patterns in the order they are tried. */
  | { readonly kind: 'patterns-ordered'; readonly ids: readonly string[] };

export const nameRedirectSubject = (from: string): string => `redirect ${from}`;
export const namePatternSubject = (id: string): string => `pattern ${id}`;

export const redirectKinds: KindsOf<RedirectDecision> = {
  redirect: {
    settlesAddresses: true,
    subjects: ({ redirect }) => [nameRedirectSubject(redirect.from)],
    apply: (draft, { redirect }, { seq }) => settle(draft, redirect, seq),
  },
  redirects: {
    settlesAddresses: true,
    subjects: ({ redirects, removed, patterns = [] }) => [
      ...redirects.map(({ from }) => nameRedirectSubject(from)),
      ...removed.map(nameRedirectSubject),
      ...patterns.map(({ id }) => namePatternSubject(id)),
    ],
    apply(draft, { redirects, removed, patterns = [] }, { seq, folding }) {
      for (const from of removed) unsettle(draft, from);
      for (const redirect of redirects) settle(draft, redirect, seq);
      for (const { id, pattern } of patterns) setPattern(draft, folding, id, pattern);
    },
  },
  'redirect-removed': {
    settlesAddresses: true,
    subjects: ({ from }) => [nameRedirectSubject(from)],
    apply: (draft, { from }) => unsettle(draft, from),
  },
  pattern: {
    subjects: ({ id }) => [namePatternSubject(id)],
    apply: (draft, { id, pattern }, { folding }) => setPattern(draft, folding, id, pattern),
  },
  'pattern-removed': {
    subjects: ({ id }) => [namePatternSubject(id)],
    apply(draft, { id }, { folding }) {
      draft.patterns.delete(id);
      folding.patternOrder.delete(id);
    },
  },
  'patterns-ordered': {
    subjects: ({ ids }) => ['patterns', ...ids.map(namePatternSubject)],
    apply: (draft, { ids }, { folding }) => orderPatterns(draft, folding, ids),
  },
};

export function settle(draft: MutableDraft, redirect: Redirect, seq: number): void {
  draft.redirects.set(redirect.from, redirect);
  draft.settledIn.set(redirect.from, seq);
}

export function unsettle(draft: MutableDraft, from: string): void {
  draft.redirects.delete(from);
  draft.settledIn.delete(from);
}
