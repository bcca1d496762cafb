export { splitBatches, BATCHES_AT_ONCE } from './batches.ts';
export { compileAccess } from './access.ts';
export { compileStyle, stripBase, mapMovesUnder, placeUnderBase } from './basePath.ts';
export { compileSpan, compilePage, type CompiledPage } from './compilePage.ts';
export { compileRules, type Answered, listStandInRedirects, type CompiledRules } from './rules.ts';
export {
  readImportedItems,
  readImportedTarget,
  isInScope,
  isOfMenu,
  planMenus,
  planPage,
  findPublishedPath,
  type MenuPlan,
  type PagePlan,
  type PlannedItem,
  type SharedPlan,
} from './plan.ts';
export { writeApacheHeaders, writeNginxHeaders } from './serverHeaders.ts';
export { deriveDelta, compareReleases, type ReleaseDifference } from './difference.ts';
export {
  applyDelta,
  findDifferingShards,
  emptyManifest,
  parseShard,
  computeRoot,
  serialiseShard,
  SHARD_COUNT,
  findShard,
  findTouchedShards,
  type ChangedManifest,
  type ManifestDelta,
  type ManifestEntry,
  type Sha256,
  type ShardHashes,
} from './manifest.ts';
export { findFileHeaders, isTextType, findMediaType, type FileHeaders } from './mediaType.ts';
export { findLastingSteps, type StateChange } from './lastingSteps.ts';
