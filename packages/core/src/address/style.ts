/**
 * Address styles: the same page at `/about/`, `/about` or `/about.html`. All three are common
 * practice; a site is easiest to link to when it keeps to one.
 */

/** `imported`: each page answers where its file stands. */
export const ADDRESS_STYLES = ['imported', 'slash', 'bare', 'html'] as const;
export type AddressStyle = (typeof ADDRESS_STYLES)[number];

/** Hosts look for it under this name alone. */
const NOT_FOUND = '/404.html';

/** What stays the same in every style: `/about` of all three; `/` of the front page. */
export function stripAddressEnding(address: string): string {
  if (address === '/' || address === NOT_FOUND) return address;
  return address.replace(/\/$/, '').replace(/\.html?$/i, '');
}

export function writeInStyle(address: string, style: AddressStyle): string {
  if (style === 'imported' || address === '/' || address === NOT_FOUND) return address;
  const stem = stripAddressEnding(address);
  return style === 'slash' ? `${stem}/` : style === 'html' ? `${stem}.html` : stem;
}

/** Whether an address lies in the branch under another one, in whatever style the two are written. */
export function isUnder(address: string, branch: string): boolean {
  return (
    branch === '/' ||
    stripAddressEnding(address) === stripAddressEnding(branch) ||
    stripAddressEnding(address).startsWith(`${stripAddressEnding(branch)}/`)
  );
}
