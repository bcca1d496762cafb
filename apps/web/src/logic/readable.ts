/** An address as people write it: `about%20us.htm` is “about us.htm”; one that is not in UTF-8 stays as it is. */
export function formatReadable(address: string): string {
  try {
    return decodeURI(address);
  } catch {
    return address;
  }
}
