export { bytePositions, decodeSource, type EncodingSource, type SourceText } from './decode.ts';
export {
  attribute,
  elements,
  fold,
  isHtml,
  parseForReading,
  parsePage,
  textOf,
  type Element,
  type PageDocument,
} from './document.ts';
export { cssUrls, type CssUrl } from './cssUrls.ts';
export { parseSrcset } from './srcset.ts';
export { baseHref, linkPlaces, splitPath, type Link, type LinkPlace } from './links.ts';
export { type LinkPurpose } from './references.ts';
export { lineAndColumn, placeInPage, placeInStyle, placeOfSpan, type SourcePlace } from './place.ts';
export { isHeading, readDocument, readPage, type Heading, type PageReading } from './reading.ts';
export {
  escapeAttribute,
  escapeText,
  splice,
  withInside,
  withoutOverlaps,
  type Edit,
  type SourcePiece,
} from './splice.ts';
export { titleEdit } from './title.ts';
export { unlinkEdits } from './unlink.ts';
export { linkEdits, type LinkMoves } from './rewrite.ts';
export {
  anchorAt,
  anchors,
  parentOf,
  recognise,
  recogniseAll,
  textPlaces,
  type Anchor,
  type Recognised,
  type TextPlace,
} from './anchor.ts';
export {
  mainElement,
  PART_NAMES,
  partOf,
  parts,
  sectionLabel,
  sectionNamed,
  sections,
  type PartName,
  type Section,
} from './sections.ts';
export { partWithin, wordsWithin } from './textPositions.ts';
export { attributeEdits } from './attributes.ts';
export { declaresCharset, firstElement, headEnd, headOpening, headStart } from './head.ts';
export { newPageFrom, type NewPage } from './newPage.ts';
