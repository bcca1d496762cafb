export { findMenuAt, findMenus, type MenuPlace } from './find.ts';
export type { MenuNode } from './linkLists.ts';
export {
  gatherMenus,
  isVariant,
  gatherLists,
  withMark,
  withPointedMenus,
  type KeptApart,
  type ListOnPages,
  type PointedMenu,
  type SiteMenu,
  type SiteMenus,
} from './gather.ts';
export {
  walkItems,
  keyItem,
  plainTarget,
  settleWords,
  signItems,
  signTopItems,
  type CurrentMark,
  type FoundItem,
  type FoundMenu,
  type ItemForm,
  type MenuItem,
  type MenuTarget,
} from './menu.ts';
export { isCurrentItem, editMenu, type MenuStyle, type WrittenItem } from './write.ts';
export { withRemovedItems } from './removedItems.ts';
