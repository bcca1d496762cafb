export { writeApacheAliasRules } from './apacheAlias.ts';
export { writeApacheMapRules } from './apacheMap.ts';
export type { Exported, ExportedFile } from './exported.ts';
export { filterRulesOfHost, filterRulesOfSite } from './forHost.ts';
export { writeNginxRules } from './nginx.ts';
export { writeStubPages } from './stubs.ts';
export { writeRuleData, writeRuleTable, TABLE_COLUMNS } from './table.ts';
