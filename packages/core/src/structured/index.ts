export { checkData, isKindOf, type DataProblem } from './check.ts';
