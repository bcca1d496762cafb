export { bytePositions, decodeSource, type EncodingSource, type SourceText } from './decode.ts';
export { attribute, elements, fold, isHtml, parsePage, textOf, type Element, type PageDocument } from './document.ts';
export { cssUrls, type CssUrl } from './cssUrls.ts';
export { parseSrcset } from './srcset.ts';
export { baseHref, linkPlaces, type Link, type LinkPlace, type LinkPurpose } from './links.ts';
export { readDocument, readPage, type Heading, type PageReading } from './reading.ts';
export { escapeAttribute, escapeText, splice, type Edit } from './splice.ts';
export { titleEdit } from './title.ts';
export { linkEdits, type LinkMoves } from './rewrite.ts';
