export { readApacheRules } from './apache.ts';
export { readNginxRules } from './nginx.ts';
export type { ReadRule, RulesReading } from './reading.ts';
export { readRuleTable } from './table.ts';
