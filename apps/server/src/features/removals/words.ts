/** Removed things by name. */
import type { Draft, Removal } from '@fastigium/core/site';

export function labelRemoval(
  { nameOf, draft }: { readonly nameOf: (id: string) => string; readonly draft: Draft },
  { thing, left, redirects }: Removal,
): string {
  switch (thing.kind) {
    case 'nodes':
      return nameOf(left[0] ?? thing.nodes[0] ?? '');
    case 'section':
      return thing.section.name;
    case 'menu-item':
      return thing.label;
    case 'file':
      return thing.path.slice(thing.path.lastIndexOf('/') + 1);
    case 'redirects':
      return redirects[0]?.redirect.from ?? draft.removedPatterns.get(thing.patterns[0] ?? '')?.pattern.text ?? '';
  }
}
