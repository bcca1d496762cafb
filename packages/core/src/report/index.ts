export { pageChange, type PageChange } from './pageChange.ts';
export { sourceDiff, type DiffLine } from './sourceDiff.ts';
export { pageChangeInWords } from './words.ts';
export { MOST_LETTERS, releaseMessage, type MessageFacts } from './message.ts';
