export { comparePage, type PageChange } from './pageChange.ts';
export { compareSources, type DiffLine } from './sourceDiff.ts';
export { change, type ChangeMessage } from './messages.ts';
export { isHeadOnly, isLinksOnly, isMenuOnly, describePageChange } from './pageChangeMessage.ts';
export { MOST_LETTERS, createReleaseMessage, type MessageFacts } from './message.ts';
