declare module 'ico-endec' {
  /** PNG pictures as one ICO, in their order. */
  export function encode(pictures: readonly ArrayBuffer[]): ArrayBuffer;
}
