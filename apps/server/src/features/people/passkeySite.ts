import type { Request } from 'express';
import type { Config } from '../../config/config.ts';
import type { PasskeySite } from './second/passkeys.ts';

/**
 * A passkey is made for a name and used at an origin (Web Authentication Level 3, sections 5.1.2 and 7.1). Where no
 * address is configured, people are at localhost, under the name that was let in already.
 */
export function readPasskeySite({ publicSite }: Config, req: Request): PasskeySite {
  const origin = publicSite.origin ?? `http://${req.get('host') ?? 'localhost'}`;
  return { origin, name: new URL(origin).hostname };
}
