export { structured, type StructuredMessage } from './messages.ts';
export { checkData, isKindOf, type DataProblem } from './check.ts';
