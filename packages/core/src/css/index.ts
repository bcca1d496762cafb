export { findSeenTexts, type SeenText } from './computed.ts';
export {
  computeContrastRatio,
  requireRatio,
  blendOver,
  computeRelativeLuminance,
  type Rgb,
  type Rgba,
} from './contrast.ts';
export { createMatcher, type Matcher } from './match.ts';
export { isTooDeep, readSheet, type StyleRule } from './sheet.ts';
export { readColour } from './colour.ts';
