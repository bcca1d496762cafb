export { pageChange, type PageChange } from './pageChange.ts';
export { sourceDiff, type DiffLine } from './sourceDiff.ts';
export { change, type ChangeMessage } from './messages.ts';
export { isHeadOnly, isLinksOnly, isMenuOnly, pageChangeMessage } from './pageChangeMessage.ts';
export { MOST_LETTERS, releaseMessage, type MessageFacts } from './message.ts';
