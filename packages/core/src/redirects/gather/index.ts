export { readLogLine, type LogRequest } from './accessLog.ts';
export { COLUMN_MEANINGS, guessColumns, readCount, type ColumnMeaning, type Columns } from './columns.ts';
export { judgeKind, NOISE, type AddressKind, type Asked, type Noise } from './kind.ts';
export { readFeedTemplate, fillTemplate, readIndexPage, type IndexEntry, type IndexPage } from './openSearch.ts';
export { readPasted, type Pasted, type PastedAddress } from './pasted.ts';
export { isRobot, Tally, type Tallied } from './tally.ts';
