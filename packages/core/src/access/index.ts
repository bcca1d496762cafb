export {
  admission,
  entryAt,
  isOver,
  isRestricted,
  OPEN_TO_ALL,
  ruleAt,
  sameEntry,
  type AccessRule,
  type Admission,
  type Entry,
  type ShownInstead,
  type SiteAccess,
} from './access.ts';
export { parseServing, serialiseServing, type Serving } from './serving.ts';
export { apacheAccess, nginxAccess, realmOf, type AccessFiles } from './serverAccess.ts';
