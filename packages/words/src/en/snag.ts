import type { snag } from '@fastigium/core/checks';
import type { CatalogueOf } from '../catalogue.ts';

export const snagWords: CatalogueOf<typeof snag> = {
  'language-unknown': '{tag}: {why}',
  data: '{problem}',
  'data-at': '{at}: {problem}',
  nested: 'nested too deeply for: {checks}',
};
