export { activeDecisions, isFact, type AddedNode, type Addresses, type Decision, type IconFile, type PageId, type Place, type RecordedDecision } from './decisions.ts';
export { affectedBetween, type Affected } from './affected.ts';
export { draftAddress, emptyDraft, foldDecisions, isAdded, plainAddress, siteAddress, type Draft, type DraftMenu, type PageFile } from './draft.ts';
export { movedAddresses, spellings } from './moves.ts';
export { stepsAvailable, type StepsAvailable } from './steps.ts';
export { treeRows, type TreeNode, type TreeRow } from './tree.ts';
export { commonEnding, labelOf } from './label.ts';
