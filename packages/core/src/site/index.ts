export { activeDecisions, isFact, kindOf, type Decision, type RecordedDecision } from './decisions.ts';
export type { AddedNode, Addresses, HomeChoice, IconFile, Place, TakenSource } from './nodes.ts';
export { leadsToNewest, withNewest } from './newest.ts';
export type { PageId } from './pageId.ts';
export { affectedBetween, differingIcons, type Affected } from './affected.ts';
export {
  draftAddress,
  emptyDraft,
  isAdded,
  isOut,
  plainAddress,
  releasedAddress,
  releasedIn,
  siteAddress,
  withRemoved,
  writtenFrom,
  type Draft,
  type DraftMenu,
  type PageFile,
  type Released,
} from './draft.ts';
export { foldDecisions } from './fold.ts';
export {
  LINK_TREATMENTS,
  sectionKey,
  type LinkTreatment,
  type PutBackThing,
  type Removal,
  type RemovedThing,
  type StandIn,
} from './removal.ts';
export { standInOf, type StandsIn } from './standIn.ts';
export { linksToRemoved, movedAddresses, spellings, standInAddress, type LinksToRemoved } from './moves.ts';
export { stepsAvailable, type StepsAvailable } from './steps.ts';
export { keptUntilMs, NOTICE_DAYS, type KeepingRule } from './keeping.ts';
export { draftRows, standingRows, type DraftNode } from './draftRows.ts';
export { treeRows, withoutNodes, type Places, type TreeNode, type TreeRow } from './tree.ts';
export { commonEnding, labelOf } from './label.ts';
export { conflictWith, subjectsOf } from './subjects.ts';
