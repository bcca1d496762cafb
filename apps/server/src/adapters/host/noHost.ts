/** In the place of a host that a site does not have, or may not use: whatever is asked of it says why. */
import { DomainError } from '@fastigium/contracts/errors';
import type { HostPort } from '@fastigium/contracts/ports/host';

/** @param url where visitors find what is there, where that is known */
export function createRefusingHost(why: () => DomainError, url?: string): HostPort {
  const refuse = (): Promise<never> => Promise.reject(why());
  return {
    missing: refuse,
    put: refuse,
    putFrom: undefined,
    putMany: undefined,
    stage: refuse,
    switchTo: refuse,
    current: refuse,
    letGo: refuse,
    urlOf: () => (url === '' ? undefined : url),
    naming: undefined,
    asksPasswords: false,
    accessLog: undefined,
    challenge: refuse,
  };
}

/** Of a site that has none yet: one has to be connected first. */
export const noHost = createRefusingHost(() => new DomainError('host-needed'));
