/** The branches that settings were made for, and which of them hold a page. */
import { isUnder } from '@fastigium/core/address';
import type { SettingIndex } from '@fastigium/core/head';

/** @returns for a page those that hold it, the nearest first; one holds the page it begins at. The site as a whole is none */
export function indexBranches(
  settings: SettingIndex,
  addressOf: (page: string) => string | undefined,
): (page: string) => string[] {
  const roots = settings
    .branchRoots()
    .flatMap((id) => {
      const address = addressOf(id);
      return address === undefined ? [] : [{ id, address }];
    })
    .sort((a, b) => b.address.length - a.address.length);
  return (page) => {
    const address = addressOf(page);
    return roots
      .filter(
        (root) => root.id === page || (address !== undefined && root.address !== '/' && isUnder(address, root.address)),
      )
      .map(({ id }) => id);
  };
}
