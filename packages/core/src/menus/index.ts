export { menusIn, type MenuNode, type MenuPlace } from './find.ts';
export { gatherMenus, listsOnPages, withMark, type ListOnPages, type SiteMenu } from './gather.ts';
export { allItems, signature, type CurrentMark, type FoundItem, type FoundMenu, type MenuItem, type MenuTarget } from './menu.ts';
export { withRemovedItems } from './removedItems.ts';
export { isCurrentItem, menuEdit, type MenuStyle, type WrittenItem } from './write.ts';
