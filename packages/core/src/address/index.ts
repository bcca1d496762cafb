export { formatReference, parseReference, removeDotSegments, resolveReference, type Reference } from './reference.ts';
export { decodePath, encodePath, normalisePathEncoding, normaliseQueryEncoding } from './percent.ts';
export {
  addressOf,
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
export { addressOfFile, candidateFiles, fileOfAddress, isFront, isPageFile } from './files.ts';
export { relativeReference } from './relative.ts';
export { freeAddress, slug } from './slug.ts';
export { ADDRESS_STYLES, addressStem, inStyle, isUnder, type AddressStyle } from './style.ts';
