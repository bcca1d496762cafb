export { batches, BATCHES_AT_ONCE } from './batches.ts';
export { compileAccess } from './access.ts';
export { compileStyle, insideBase, movedUnder, underBase } from './basePath.ts';
export { compiledSpan, compilePage, type CompiledPage } from './compilePage.ts';
export { compileRules, type Answered, standInRedirects, type CompiledRules } from './rules.ts';
export {
  importedItems,
  importedTarget,
  isInScope,
  isOfMenu,
  planMenus,
  planPage,
  publishedPath,
  type MenuPlan,
  type PagePlan,
  type PlannedItem,
  type SharedPlan,
} from './plan.ts';
export { apacheHeaders, nginxHeaders } from './serverHeaders.ts';
export { deltaOf, releaseDifference, type ReleaseDifference } from './difference.ts';
export {
  applyDelta,
  differingShards,
  emptyManifest,
  parseShard,
  rootOf,
  serialiseShard,
  SHARD_COUNT,
  shardOf,
  touchedShards,
  type ChangedManifest,
  type ManifestDelta,
  type ManifestEntry,
  type Sha256,
  type ShardHashes,
} from './manifest.ts';
export { fileHeaders, isTextType, mediaTypeOf, type FileHeaders } from './mediaType.ts';
export { lastingSteps, type StateChange } from './lastingSteps.ts';
