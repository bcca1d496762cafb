export { findBytePositions, decodeSource, type EncodingSource, type SourceText } from './decode.ts';
export {
  readAttribute,
  walkElements,
  fold,
  isHtml,
  parseForReading,
  parsePage,
  collectText,
  type Element,
  type PageDocument,
} from './document.ts';
export { findCssUrls, type CssUrl } from './cssUrls.ts';
export { parseSrcset } from './srcset.ts';
export { readBaseHref, linkPlaces, splitPath, type Link, type LinkPlace } from './links.ts';
export { type LinkPurpose } from './references.ts';
export { findLineAndColumn, placeInPage, placeInStyle, placeOfSpan, type SourcePlace } from './place.ts';
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
export { editTitle } from './title.ts';
export { unlinkEdits } from './unlink.ts';
export { linkEdits, type LinkMoves } from './rewrite.ts';
export {
  findAnchorAt,
  listAnchors,
  findParent,
  recognise,
  recogniseAll,
  listTextPlaces,
  type Anchor,
  type Recognised,
  type TextPlace,
} from './anchor.ts';
export {
  findMainElement,
  PART_NAMES,
  findPartOf,
  findParts,
  labelSection,
  findSectionNamed,
  findSections,
  type PartName,
  type Section,
} from './sections.ts';
export { findPartWithin, findWordsWithin } from './textPositions.ts';
export { editAttributes } from './attributes.ts';
export { declaresCharset, findFirstElement, findHeadEnd, findHeadOpening, findHeadStart } from './head.ts';
export { writeNewPage, type NewPage } from './newPage.ts';
