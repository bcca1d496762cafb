/** A part of dns-packet that its published types leave out. */
declare module 'dns-packet/types.js' {
  export function toString(type: number): string;
  export function toType(name: string): number;
}
