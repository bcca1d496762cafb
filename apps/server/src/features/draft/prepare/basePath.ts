/** The path a site is published under. */
import { decision as decided } from '@fastigium/contracts/messages/decision';
import { DomainError } from '@fastigium/contracts/errors';
import { parseAddress } from '@fastigium/core/address';
import type { Prepared, Situation } from './situation.ts';

/** `museum/` and `/museum` mean the same; several folders may be named. Empty: at the root. */
export function prepareBasePath({ draft }: Situation, text: string): Prepared {
  const bare = text.trim().replace(/^\/+|\/+$/g, '');
  const parsed = bare === '' ? undefined : parseAddress(`/${bare}`);
  if (
    parsed &&
    (!parsed.ok || parsed.address.query !== undefined || !/^(\/[A-Za-z0-9][A-Za-z0-9._~-]*)+$/.test(`/${bare}`))
  )
    throw new DomainError('base-path-unreadable', { path: text });
  const path = bare === '' ? '' : `/${bare}`;
  if (path === draft.basePath) throw new DomainError('base-path-same', { path: path === '' ? 'the root' : path });
  return {
    decision: { kind: 'base-path', path },
    message: path === '' ? decided('base-path-root') : decided('base-path-set', { path }),
  };
}
