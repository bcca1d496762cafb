/**
 * The few things of the web platform the core leans on. They stand in Node.js and in every browser
 * alike and are pure: no clock, no network, no storage. Declared here by hand, so that the core
 * compiles without the DOM's and Node's types and nothing else of theirs can slip in.
 *
 * Sources: WHATWG URL standard, section 6; WHATWG Encoding standard, section 7.
 */
declare class URL {
  constructor(url: string, base?: string | URL);
  static canParse(url: string, base?: string): boolean;
  readonly href: string;
  readonly origin: string;
  protocol: string;
  username: string;
  password: string;
  host: string;
  hostname: string;
  port: string;
  pathname: string;
  search: string;
  hash: string;
}

declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean; ignoreBOM?: boolean });
  readonly encoding: string;
  decode(input?: Uint8Array, options?: { stream?: boolean }): string;
}

declare class TextEncoder {
  encode(input?: string): Uint8Array;
}
