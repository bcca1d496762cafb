/** Addresses as writers put them into tables: whole ones, or without the slash. */
import { formatAddress, parseAddress } from '../address/index.ts';

/** The normal path of an address, whichever site it names; the text itself where it is none. */
export function normaliseTableAddress(text: string): string {
  const parsed = parseAddress(text.replace(/^https?:\/\/[^/]*/i, '') || '/');
  return parsed.ok ? formatAddress(parsed.address) : text;
}
