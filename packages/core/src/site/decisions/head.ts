/** What heads say, and the site's icons. */
import { keySetting, type HeadSetting } from '../../head/index.ts';
import type { MutableDraft } from '../draft.ts';
import type { IconFile } from '../nodes.ts';
import type { KindsOf } from './kind.ts';

export type HeadDecision =
  /**
   * Metadata for the site, branches or pages; what says neither a text nor what becomes of the page's own takes back
   * what was set there.
   */
  | { readonly kind: 'head'; readonly settings: readonly HeadSetting[] }
  /** Icons made from one picture, in place of all made before; none take them away. */
  | { readonly kind: 'icons'; readonly icons: readonly IconFile[] };

export const headKinds: KindsOf<HeadDecision> = {
  head: {
    subjects: ({ settings }) =>
      settings.map((setting) =>
        setting.name === 'title' && setting.scope.kind === 'page'
          ? `title ${setting.scope.page}`
          : `head ${keySetting(setting)}`,
      ),
    apply(draft, { settings }) {
      for (const setting of settings) setHead(draft, setting);
    },
  },
  icons: {
    subjects: () => ['icons'],
    apply(draft, { icons }) {
      draft.icons = icons;
    },
  },
};

/** A title is what the page is called everywhere, not only in its head. */
export function setHead(draft: MutableDraft, setting: HeadSetting): void {
  const { scope, name, text, own: ownText } = setting;
  if (name === 'title' && scope.kind === 'page') {
    if (typeof text === 'string') draft.titles.set(scope.page, text);
    else draft.titles.delete(scope.page);
    return;
  }
  const key = keySetting(setting);
  if (text === undefined && ownText === undefined) draft.head.delete(key);
  else draft.head.set(key, setting);
}
