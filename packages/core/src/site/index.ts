export {
  activeDecisions, stepsAvailable,
  type Decision, type PageId, type RecordedDecision, type StepsAvailable,
} from './decisions.ts';
export { affectedBetween, draftAddress, emptyDraft, siteAddress, foldDecisions, type Affected, type Draft, type PageFile } from './draft.ts';
export { movedAddresses, spellings } from './moves.ts';
export { treeRows, type TreeRow } from './tree.ts';
