/** Parts of dns-packet that its published types leave out. */
import 'dns-packet';

declare module 'dns-packet' {
  interface Codec<T> {
    encode: ((data: T, bytes?: Buffer, offset?: number) => Uint8Array) & { bytes: number };
    decode: ((bytes: Buffer, offset?: number) => T) & { bytes: number };
  }
  export const name: Codec<string>;
  export function record(type: string): Codec<unknown>;
}
