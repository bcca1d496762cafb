/** Removed things by name. */
import { speak } from '../../words.ts';
import type { Removal } from '@fastigium/core/site';
import { thingMessage } from '../draft/prepare/putBack.ts';

export function labelOf({ nameOf }: { readonly nameOf: (id: string) => string }, removal: Removal): string {
  const { thing, left } = removal;
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
      return speak(thingMessage(removal));
  }
}
