/** What a page is called, which text it has, and whether it is shown. */
import type { TakenSource } from '../nodes.ts';
import type { PageId } from '../pageId.ts';
import { setMember, type KindsOf } from './kind.ts';

export type PageDecision =
  | { readonly kind: 'title'; readonly page: PageId; readonly title: string }
  /** A page’s text as a release had it, in place of its file’s; without a source it is the file’s again. */
  | {
      readonly kind: 'source';
      readonly page: PageId;
      readonly source: TakenSource | undefined;
      readonly title?: string;
    }
  | { readonly kind: 'ready'; readonly page: PageId; readonly ready: boolean }
  | { readonly kind: 'in-menus'; readonly page: PageId; readonly shown: boolean };

export const pageKinds: KindsOf<PageDecision> = {
  title: {
    subjects: ({ page }) => [`title ${page}`],
    apply: (draft, { page, title }) => draft.titles.set(page, title),
  },
  source: {
    subjects: ({ page }) => [`source ${page}`],
    apply(draft, { page, source, title }) {
      if (source) draft.sources.set(page, source);
      else draft.sources.delete(page);
      if (title !== undefined) draft.titles.set(page, title);
    },
  },
  ready: {
    subjects: ({ page }) => [`ready ${page}`],
    apply: (draft, { page, ready }) => setMember(draft.notReady, page, !ready),
  },
  'in-menus': {
    subjects: ({ page }) => [`in-menus ${page}`],
    apply: (draft, { page, shown }) => setMember(draft.hidden, page, !shown),
  },
};
