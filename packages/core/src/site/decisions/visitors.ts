/** Who may visit, and until when. */
import type { Entry } from '../../access/index.ts';
import type { PageId } from '../pageId.ts';
import type { KindsOf } from './kind.ts';

export type VisitorDecision =
  /** Who may visit the site (null) or the branch under a page; undefined takes back what was said there. */
  | { readonly kind: 'entry'; readonly place: PageId | null; readonly entry: Entry | undefined }
  /** The page visitors see where nobody may visit yet, or the site has come down. */
  | { readonly kind: 'shown-instead'; readonly page: PageId | undefined }
  /** The last day the site can be visited, in UTC, `2027-03-31`. */
  | { readonly kind: 'last-day'; readonly day: string | undefined };

export const visitorKinds: KindsOf<VisitorDecision> = {
  entry: {
    subjects: ({ place }) => [`entry ${place ?? ''}`],
    apply(draft, { place, entry }) {
      if (entry) draft.entries.set(place, entry);
      else draft.entries.delete(place);
    },
  },
  'shown-instead': {
    subjects: () => ['shown-instead'],
    apply(draft, { page }) {
      draft.shownInstead = page;
    },
  },
  'last-day': {
    subjects: () => ['last-day'],
    apply(draft, { day }) {
      draft.lastDay = day;
    },
  },
};
