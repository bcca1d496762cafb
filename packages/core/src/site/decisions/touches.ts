/** What is changed inside pages, and the files that are put beside them for it. */
import { identifyTouch, type Touch } from '../../touches/index.ts';
import type { MutableDraft } from '../draft.ts';
import type { KindsOf } from './kind.ts';

export type TouchDecision =
  | { readonly kind: 'touch'; readonly touch: Touch }
  | { readonly kind: 'touch-removed'; readonly of: number }
  | { readonly kind: 'asset-added'; readonly path: string; readonly hash: string; readonly sizeBytes: number };

export const touchKinds: KindsOf<TouchDecision> = {
  touch: {
    subjects: ({ touch }) => [`touch ${identifyTouch(touch) ?? placeOf(touch)}`],
    apply(draft, { touch }, { seq }) {
      forgetLike(draft, touch);
      draft.touches.set(seq, touch);
    },
  },
  'touch-removed': {
    subjects: ({ of: touch }, ofStep) => [`touch ${touch}`, ...ofStep(touch)],
    apply: (draft, { of: touch }) => draft.touches.delete(touch),
  },
  'asset-added': {
    subjects: ({ path }) => [`file ${path}`],
    apply: (draft, { path, hash, sizeBytes }) => draft.assets.set(path, { hash, sizeBytes }),
  },
};

/** Of a touch that stands beside others of its kind. */
const placeOf = (touch: Touch): string =>
  JSON.stringify([touch.kind, touch.scope, 'place' in touch ? touch.place : null]);

/** Takes away those that a touch stands instead of. */
function forgetLike(draft: MutableDraft, touch: Touch): void {
  const identity = identifyTouch(touch);
  if (identity === undefined) return;
  for (const [seq, other] of draft.touches) if (identifyTouch(other) === identity) draft.touches.delete(seq);
}
