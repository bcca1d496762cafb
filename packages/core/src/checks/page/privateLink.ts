import { linkPlaces } from '../../html/index.ts';
import type { PageCheck } from '../check.ts';

/** Files of somebody's own computer, this machine, and the addresses of private networks (RFC 1918, RFC 4193, RFC 6761 section 6.3). */
const OWN =
  /^(file:|[a-z]:[\\/]|\\\\)|^https?:\/\/((localhost|[^/:]*\.localhost)(?=[:/?#]|$)|127\.|0\.0\.0\.0|10\.|192\.168\.|172\.(1[6-9]|2\d|3[01])\.|\[::1\]|\[f[cd])/i;

export const privateLink: PageCheck = {
  code: 'link-private',
  severity: 'must',
  source: 'RFC 1918, RFC 4193, RFC 6761 section 6.3',
  *find({ document }) {
    for (const { hrefs, start, end } of linkPlaces(document))
      for (const href of hrefs) if (OWN.test(href)) yield { detail: href, start, end };
  },
};
