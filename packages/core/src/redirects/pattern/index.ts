export { matchPattern, readPattern, type Pattern, type PatternOptions, type PatternReading } from './pattern.ts';
export { fillTarget, readTarget, type Target, type TargetReading } from './target.ts';
