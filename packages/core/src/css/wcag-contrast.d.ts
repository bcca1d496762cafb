/** The second implementation the tests compare with. */
declare module 'wcag-contrast' {
  export function hex(a: string, b: string): number;
}
