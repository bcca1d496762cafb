export { filterActiveDecisions, isFact, findDecisionKind, type Decision, type RecordedDecision } from './decisions.ts';
export type { AddedNode, Addresses, HomeChoice, IconFile, Place, TakenSource } from './nodes.ts';
export { leadsToNewest, withNewest } from './newest.ts';
export type { PageId } from './pageId.ts';
export { findAffected, hasDifferingIcons, type Affected } from './affected.ts';
export {
  findDraftAddress,
  emptyDraft,
  isAdded,
  isOut,
  findPlainAddress,
  findReleasedAddress,
  readReleased,
  findSiteAddress,
  withRemoved,
  findWrittenFrom,
  type Draft,
  type DraftMenu,
  type PageFile,
  type Released,
} from './draft.ts';
export { foldDecisions } from './fold.ts';
export {
  LINK_TREATMENTS,
  keySection,
  type LinkTreatment,
  type PutBackThing,
  type Removal,
  type RemovedThing,
  type StandIn,
} from './removal.ts';
export { findStandIn, type StandsIn } from './standIn.ts';
export {
  findLinksToRemoved,
  findMovedAddresses,
  listSpellings,
  findStandInAddress,
  type LinksToRemoved,
} from './moves.ts';
export { findStepsAvailable, type StepsAvailable } from './steps.ts';
export { reckonKeptUntilMs, NOTICE_DAYS, type KeepingRule } from './keeping.ts';
export { reckonDraftRows, reckonStandingRows, type DraftNode } from './draftRows.ts';
export { reckonTreeRows, withoutNodes, type Places, type TreeNode, type TreeRow } from './tree.ts';
export { findCommonEnding, labelTitle } from './label.ts';
export { findConflict, listSubjects } from './subjects.ts';
