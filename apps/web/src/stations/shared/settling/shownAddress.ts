/** An old address as people read it: one of an old domain begins with the domain. */
export function formatShownAddress(from: string): string {
  return from.replace(/^\/\//, '');
}
