/**
 * Old addresses of another domain: `//old.example/visit.php?id=3`, a reference with its host and without its scheme
 * (RFC 3986, section 4.2). They stand among a site's own old addresses and never mean a page of it.
 */

const OF_HOST = /^\/\/([^/?#]+)(\/.*)?$/s;

/** @param address normal address, from its slash on */
export function writeWithHost(host: string, address: string): string {
  return `//${host}${address}`;
}

/** The host an old address is of, undefined for the site's own, and the address there. */
export function splitHost(from: string): { readonly host: string | undefined; readonly address: string } {
  const [, host, address] = OF_HOST.exec(from) ?? [];
  return host === undefined ? { host: undefined, address: from } : { host, address: address ?? '/' };
}
