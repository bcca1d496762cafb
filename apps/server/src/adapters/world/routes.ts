/**
 * Where an address of the internet is really found. Real addresses are found at themselves; those the
 * stand-ins play (documentation ranges only) lead to loopback.
 */
import { z } from 'zod';

export interface Endpoint {
  readonly address: string;
  readonly port: number;
}

export type Routes = (address: string, port: number) => Endpoint;

const endpoint = z.string().regex(/^(\[[0-9a-f:.]+\]|[^:[\]]+):\d{1,5}$/i, 'ADDRESS:PORT');
export const routeTable = z.record(endpoint, endpoint);

export function createRoutes(table: Readonly<Record<string, string>>): Routes {
  return (address, port) => {
    const known = table[`${address.includes(':') ? `[${address}]` : address}:${port}`];
    return known === undefined ? { address, port } : readEndpoint(known);
  };
}

/** `192.0.2.1:53`, `[2001:db8::1]:53`; without a port, `defaultPort`. */
export function readEndpoint(text: string, defaultPort = 53): Endpoint {
  const match = /^\[?([^\]]+?)\]?:(\d{1,5})$/.exec(text);
  return match?.[1] !== undefined && !(match[1].includes(':') && !text.startsWith('['))
    ? { address: match[1], port: Number(match[2]) }
    : { address: text.replace(/^\[|\]$/g, ''), port: defaultPort };
}
