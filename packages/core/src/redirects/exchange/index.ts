export { apacheAliasRules } from './apacheAlias.ts';
export { apacheMapRules } from './apacheMap.ts';
export type { Exported, ExportedFile } from './exported.ts';
export { rulesOfHost, rulesOfSite } from './forHost.ts';
export { nginxRules } from './nginx.ts';
export { stubPages } from './stubs.ts';
export { ruleData, ruleTable, TABLE_COLUMNS } from './table.ts';
