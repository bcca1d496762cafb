/** For tests: one page compiled as if the site had no other. */
import { findAddressOfFile } from '../address/index.ts';
import { findMovedAddresses, type Draft, type PageFile } from '../site/index.ts';
import { compilePage, type CompiledPage } from './compilePage.ts';
import { planPage, type SharedPlan } from './plan.ts';

export function compileAlone(
  draft: Draft,
  page: PageFile,
  bytes: Uint8Array,
  shared: Partial<SharedPlan> = {},
): CompiledPage {
  return compilePage(
    planPage(draft, page, findAddressOfFile(page.sourcePath), () => undefined),
    {
      basePath: draft.basePath,
      moves: findMovedAddresses(draft, []),
      unlinked: new Set<string>(),
      pageAddresses: new Map(),
      menus: [],
      ...shared,
    },
    bytes,
  );
}
