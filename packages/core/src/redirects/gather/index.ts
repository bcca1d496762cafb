export { LogReader, readLogLine, type LogRequest } from './accessLog.ts';
export { COLUMN_MEANINGS, guessColumns, readCount, type ColumnMeaning, type Columns } from './columns.ts';
export { judgeKind, NOISE, type AddressKind, type Asked, type Noise } from './kind.ts';
export { readFeedTemplate, fillTemplate, readIndexPage, type IndexEntry, type IndexPage } from './openSearch.ts';
export { readPasted, type Pasted, type PastedAddress } from './pasted.ts';
export {
  gatherSightings,
  MOST_NOISE,
  type GatheredAddress,
  type GatheredAddresses,
  type Sighting,
  type SightingContext,
} from './sightings.ts';
export { LogScanner, type TellNotRead } from './logScanner.ts';
export { isRobot, MOST_ADDRESSES, Tally, type Tallied, type TallyOptions } from './tally.ts';
