export {
  judgeAdmission,
  findEntry,
  isOver,
  isRestricted,
  OPEN_TO_ALL,
  findRuleAt,
  isSameEntry,
  type AccessRule,
  type Admission,
  type Entry,
  type ShownInstead,
  type SiteAccess,
} from './access.ts';
export { parseServing, serialiseServing, type Serving } from './serving.ts';
export { writeApacheAccess, writeNginxAccess, nameRealm, type AccessFiles } from './serverAccess.ts';
