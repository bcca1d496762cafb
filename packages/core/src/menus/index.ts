export { menuAt, menusIn, type MenuPlace } from './find.ts';
export type { MenuNode } from './linkLists.ts';
export {
  gatherMenus,
  isVariant,
  listsOnPages,
  withMark,
  withPointedMenus,
  type KeptApart,
  type ListOnPages,
  type PointedMenu,
  type SiteMenu,
  type SiteMenus,
} from './gather.ts';
export {
  allItems,
  itemKey,
  plainTo,
  settleWords,
  signature,
  topSignature,
  type CurrentMark,
  type FoundItem,
  type FoundMenu,
  type ItemForm,
  type MenuItem,
  type MenuTarget,
} from './menu.ts';
export { isCurrentItem, menuEdits, type MenuStyle, type WrittenItem } from './write.ts';
export { withRemovedItems } from './removedItems.ts';
