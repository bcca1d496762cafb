/** One answer from outside, held against what the release promises. */
import type { Part } from '../messages/index.ts';
import { covers, countDaysLeft } from '../reach/index.ts';
import { isTextType, type ManifestEntry } from '../release/index.ts';
import type { Finding } from './findings.ts';
import { finding, type FindingMessage } from './messages.ts';
import type { Question } from './plan.ts';

/** Header names in lower case. */
export type Headers = Readonly<Record<string, string | undefined>>;

export interface Answer {
  readonly status: number;
  readonly headers: Headers;
  readonly sizeBytes: number;
  /** SHA-256 of the body as it came, without content coding. */
  readonly hash: string;
}

/** What is otherwise in the answer itself; what a visitor sees is judged first, and alone where it is wrong. */
export function judgeAnswer(
  { aspect, address, entry }: Question,
  { status, headers, sizeBytes, hash }: Answer,
): Finding[] {
  const wrong = (message: FindingMessage): Finding[] => [{ aspect, address, message, weight: 'wrong' }];
  if (status >= 300 && status < 400) {
    const to = headers['location'];
    return wrong(to === undefined ? finding('redirected-nowhere', { status }) : finding('redirected', { to, status }));
  }
  if (status !== 200) return wrong(finding('status', { status }));
  if (hash !== entry.hash)
    return wrong(
      sizeBytes === entry.sizeBytes
        ? finding('differs')
        : finding('differs-in-size', { size: sizeBytes, published: entry.sizeBytes }),
    );
  return [...judgeType(address, entry, headers), ...judgeCaching(address, entry, headers)];
}

/**
 * The media type must be the same; the charset too where the file is text, since one in the header beats one in the
 * page (HTML standard, section 13.2.3.2). Another host may know a newer name for the same type.
 */
function judgeType(address: string, entry: ManifestEntry, headers: Headers): Finding[] {
  const meant = readType(entry.headers['content-type'] ?? '');
  const given = readType(headers['content-type'] ?? '');
  const found = (message: FindingMessage, weight: Finding['weight']): Finding[] => [
    { aspect: 'types', address, message, weight },
  ];
  if (given.type === '') return found(finding('no-type'), 'wrong');
  if (findAlias(given.type) !== findAlias(meant.type))
    return found(
      finding('type', { given: given.type, published: meant.type }),
      isRisky(meant.type, given.type) ? 'wrong' : 'note',
    );
  if (isTextType(meant.type) && given.charset !== '' && meant.charset !== '' && given.charset !== meant.charset)
    return found(finding('charset', { given: given.charset, published: meant.charset }), 'wrong');
  return [];
}

/** A page, style sheet or script under another type does not work; a picture or document mostly does. */
const isRisky = (meant: string, given: string): boolean =>
  /html|css|javascript|xml|json/.test(meant) || /html/.test(given);

function readType(header: string): { readonly type: string; readonly charset: string } {
  const [type = '', ...parameters] = header.split(';').map((part) => part.trim().toLowerCase());
  const charset =
    parameters
      .find((each) => each.startsWith('charset='))
      ?.slice('charset='.length)
      .replace(/^"|"$/g, '') ?? '';
  return { type, charset };
}

/** Two names of one type: RFC 9239 section 6 for scripts; for the others, common practice, no source. */
const ALIASES: Readonly<Record<string, string>> = {
  'application/javascript': 'text/javascript',
  'application/x-javascript': 'text/javascript',
  'text/xml': 'application/xml',
  'image/x-icon': 'image/vnd.microsoft.icon',
  'application/font-woff': 'font/woff',
  'application/font-woff2': 'font/woff2',
};
const findAlias = (type: string): string => ALIASES[type] ?? type;

/** A page kept for long at visitors' is not seen changed when the next release goes out (RFC 9111 section 4.2). */
export const STALE_PAGE_SECONDS = 3600;

function judgeCaching(address: string, entry: ManifestEntry, headers: Headers): Finding[] {
  const note = (message: FindingMessage): Finding[] => [{ aspect: 'caching', address, message, weight: 'note' }];
  const fresh = readFreshnessSeconds(headers['cache-control']);
  if (
    fresh !== undefined &&
    fresh > STALE_PAGE_SECONDS &&
    /html|css|javascript/.test(entry.headers['content-type'] ?? '')
  )
    return note(finding('kept-long', { time: fresh }));
  if (headers['etag'] === undefined && headers['last-modified'] === undefined) return note(finding('no-validator'));
  return [];
}

/** Seconds an answer may be used without asking (RFC 9111 section 5.2.2); undefined where the header does not say. */
export function readFreshnessSeconds(cacheControl: string | undefined): number | undefined {
  if (cacheControl === undefined) return undefined;
  const directives = cacheControl
    .toLowerCase()
    .split(',')
    .map((each) => each.trim());
  if (directives.some((each) => each === 'no-store' || each === 'no-cache' || each.startsWith('no-cache='))) return 0;
  const age = directives.map((each) => /^max-age="?(\d+)"?$/.exec(each)?.[1]).find((each) => each !== undefined);
  return age === undefined ? undefined : Number(age);
}

/** A page asked for again with what came the first time is not sent again (RFC 9110 sections 13.1.2 and 15.4.5). */
export function judgeAgain(address: string, status: number): Finding[] {
  return status === 304
    ? []
    : [{ aspect: 'caching', address, message: finding('sent-again', { status }), weight: 'note' }];
}

/** An address nothing is at has to say so: machines keep what answers 200. */
export function judgeNowhere(address: string, answer: Answer, expectedHash: string | undefined): Finding[] {
  const found = (message: FindingMessage, weight: Finding['weight']): Finding[] => [
    { aspect: 'not found', address, message, weight },
  ];
  if (answer.status !== 404) return found(finding('found-nowhere', { status: answer.status }), 'wrong');
  if (expectedHash !== undefined && answer.hash !== expectedHash) return found(finding('not-own-error-page'), 'note');
  return [];
}

/**
 * @param hstsSeconds what was set for the site; null where it was not
 * @param isSecure whether the answer came by https: over plain http the header has no meaning (RFC 6797 section 7.2)
 */
export function judgeSecurity(
  address: string,
  headers: Headers,
  isSecure: boolean,
  hstsSeconds: number | null,
): Finding[] {
  const found = (message: FindingMessage, weight: Finding['weight']): Finding => ({
    aspect: 'security',
    address,
    message,
    weight,
  });
  const sent = /max-age="?(\d+)/i.exec(headers['strict-transport-security'] ?? '')?.[1];
  return [
    ...(isSecure && hstsSeconds !== null && sent !== String(hstsSeconds)
      ? [
          found(
            sent === undefined ? finding('hsts-missing') : finding('hsts-differs', { sent, set: hstsSeconds }),
            'wrong',
          ),
        ]
      : []),
    ...(headers['x-powered-by'] !== undefined
      ? [found(finding('powered-by', { header: headers['x-powered-by'] }), 'note')]
      : []),
    ...(/[a-z]\/\d/i.test(headers['server'] ?? '')
      ? [found(finding('server-version', { header: headers['server'] ?? '' }), 'note')]
      : []),
  ];
}

export interface ServedCertificate {
  readonly names: readonly string[];
  readonly notBeforeMs: number;
  readonly notAfterMs: number;
  readonly trusted: boolean;
}

/** Days under which a certificate that renews itself should have been renewed; common practice, no source. */
const SOON_DAYS = 14;

export function judgeCertificate(
  name: string,
  served: ServedCertificate | { readonly problem: Part },
  nowMs: number,
): Finding[] {
  const found = (message: FindingMessage, weight: Finding['weight']): Finding[] => [
    { aspect: 'certificate', address: name, message, weight },
  ];
  if ('problem' in served) return found(finding('no-https', { reason: served.problem }), 'wrong');
  if (!served.names.some((each) => covers(each, name)))
    return found(finding('certificate-other-names', { names: served.names }), 'wrong');
  if (nowMs < served.notBeforeMs || nowMs > served.notAfterMs) return found(finding('certificate-over'), 'wrong');
  if (!served.trusted) return found(finding('certificate-untrusted'), 'wrong');
  const left = countDaysLeft(served.notAfterMs, nowMs);
  return left < SOON_DAYS ? found(finding('certificate-ends', { days: Math.floor(left) }), 'note') : [];
}
