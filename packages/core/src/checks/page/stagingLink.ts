import { linkPlaces } from '../../html/index.ts';
import type { PageCheck } from '../check.ts';

/** What test copies of sites are called (common practice); on a domain that is somebody else's they say nothing. */
const TEST_COPY =
  /^(www\.)?([a-z0-9-]+-)?(staging|stage|stg|preprod|pre-prod|uat|dev|develop|test|testing|preview|beta|demo)(-[a-z0-9-]+)?\./i;
/** Names that no public DNS has: RFC 6761 section 6, RFC 6762 section 3, RFC 8375, RFC 9476, and common practice of private networks. */
const NOT_PUBLIC = /\.(local|internal|lan|intranet|home\.arpa|test|invalid)$/i;
/** Kept for examples (RFC 2606, section 2): a test copy under it is nobody's live site. */
const EXAMPLE = /\.example$/i;

export const stagingLink: PageCheck = {
  code: 'link-staging',
  severity: 'must',
  source: 'RFC 2606, RFC 6761 section 6, RFC 6762 section 3; common practice',
  *find({ document, ownNames }) {
    for (const { hrefs, start, end } of linkPlaces(document)) {
      for (const href of hrefs) {
        const host = /^(?:https?:)?\/\/([^/:?#]+)/i.exec(href)?.[1];
        if (host !== undefined && isTestCopy(host, ownNames)) yield { detail: href, start, end };
      }
    }
  },
};

function isTestCopy(host: string, ownNames: readonly string[]): boolean {
  if (NOT_PUBLIC.test(host)) return true;
  if (!TEST_COPY.test(host) || ownNames.includes(host.toLowerCase())) return false;
  return (
    EXAMPLE.test(host) || ownNames.some((ownName) => host.toLowerCase().endsWith(`.${ownName.replace(/^www\./, '')}`))
  );
}
