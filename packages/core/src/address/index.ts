export { formatReference, parseReference, removeDotSegments, resolveReference, type Reference } from './reference.ts';
export { decodePath, encodeFragment, encodePath, normalisePathEncoding, normaliseQueryEncoding } from './percent.ts';
export {
  readAddressOf,
  formatAddress,
  parseAddress,
  parseUrl,
  resolveHref,
  splitAddress,
  type Address,
  type AddressProblem,
  type Destination,
  type ParsedAddress,
} from './address.ts';
export { findAddressOfFile, listCandidateFiles, findFileOfAddress, isFront, isPageFile } from './files.ts';
export { relativiseReference } from './relative.ts';
export { findFreeAddress, makeSlug } from './slug.ts';
export { ADDRESS_STYLES, stripAddressEnding, writeInStyle, isUnder, type AddressStyle } from './style.ts';
