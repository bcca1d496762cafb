import { linkPlaces } from '../../html/index.ts';
import type { PageCheck } from '../check.ts';

/** What test copies of sites are called; names that no public DNS has: RFC 6762 section 3, RFC 9476 and common practice. */
const STAGING = /^https?:\/\/((www\.)?(staging|stage|stg|preprod|pre-prod|uat|dev|develop|test|testing|preview|beta|demo)[.-][^/]*|[^/]*\.(staging|preprod)\.[^/]*|[^/:]*\.(local|internal|lan|intranet|home\.arpa))(:\d+)?(\/|$|\?|#)/i;

export const stagingLink: PageCheck = {
  code: 'link-staging', severity: 'must', title: 'Links to a test copy of the site',
  how: 'Point at the link and choose the page of this site it is to lead to.', source: 'common practice',
  * find({ document }) {
    for (const { hrefs, start, end } of linkPlaces(document)) for (const href of hrefs) if (STAGING.test(href)) yield { detail: href, start, end };
  },
};
