/** An answer to somebody who may not come in, held against who may visit. */
import type { Admission } from '../access/index.ts';
import type { Finding } from './findings.ts';
import type { Answer } from './judge.ts';
import { finding, type FindingMessage } from './messages.ts';

/** RFC 9110 sections 15.5.2, 15.6.4 and 15.5.11. */
const MEANT = { password: 401, nobody: 503, over: 410 } as const;

/** @param published SHA-256 of the file that stands at the address */
export function judgeClosed(
  address: string,
  kind: Exclude<Admission['kind'], 'everyone'>,
  { status, headers, hash }: Answer,
  published: string,
): Finding[] {
  const wrong = (message: FindingMessage): Finding[] => [{ aspect: 'visitors', address, message, weight: 'wrong' }];
  if (hash === published || (status >= 200 && status < 300)) return wrong(finding('open', { although: kind }));
  if (status !== MEANT[kind])
    return wrong(finding('closed-otherwise', { status, expected: MEANT[kind], although: kind }));
  // Without the challenge no browser asks for the password (RFC 9110 section 11.6.1).
  return kind === 'password' && !/^basic\b/i.test(headers['www-authenticate'] ?? '')
    ? wrong(finding('no-challenge'))
    : [];
}
