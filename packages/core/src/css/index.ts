export { seenTexts, type SeenText } from './computed.ts';
export { contrastRatio, leastRatio, over, relativeLuminance, type Rgb, type Rgba } from './contrast.ts';
export { matcherOf, type Matcher } from './match.ts';
export { isTooDeep, readSheet, type StyleRule } from './sheet.ts';
export { readColour } from './colour.ts';
