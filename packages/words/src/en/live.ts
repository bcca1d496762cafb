import type { headProof } from '@fastigium/contracts/messages/headProof';
import type { told } from '@fastigium/contracts/messages/told';
import type { finding } from '@fastigium/core/inspection';
import type { liveWay } from '@fastigium/core/redirects';
import type { alert, outage } from '@fastigium/core/watch';
import type { CatalogueOf } from '../catalogue.ts';

const ALTHOUGH =
  '{although, select, password {although it asks for a password} nobody {although nobody may visit it yet} other {although the site has come down}}';

/** Each ends a sentence that begins with an address. */
export const findingWords: CatalogueOf<typeof finding> = {
  'as-written': '{text}',
  'no-answer': 'gives no answer: {reason}',
  redirected: 'is sent on to {to} ({status}) instead of answering',
  'redirected-nowhere': 'is sent on to nowhere ({status}) instead of answering',
  status: 'answers {status}',
  differs: 'shows something else than was published',
  'differs-in-size':
    'shows something else than was published: {size, plural, one {# byte} other {# bytes}} instead of {published, number}',
  'no-type': 'comes without a content type',
  type: 'comes as {given}, not as {published}',
  charset: 'says its letters are {given}, and they are {published}',
  'kept-long': 'may be kept for {time}, so a new release is seen late',
  'no-validator': 'has neither an entity tag nor a date, so it is sent whole each time',
  'sent-again': 'is sent whole again to whoever has it already ({status} instead of 304)',
  'found-nowhere': 'finds nothing and answers {status} instead of 404',
  'not-own-error-page': 'is answered without the site’s own page for what is not found',
  'hsts-missing': 'does not say that it is reached by https alone (Strict-Transport-Security)',
  'hsts-differs': 'says so for {sent} seconds instead of {set} (Strict-Transport-Security)',
  'powered-by': 'tells what it runs on (X-Powered-By: {header})',
  'server-version': 'tells its server’s version ({header})',
  'no-https': 'is not reached by https: {reason}',
  'certificate-other-names': 'is not covered by its certificate, which is for {names}',
  'certificate-over': 'has a certificate whose time is over or has not begun',
  'certificate-untrusted': 'has a certificate that browsers do not trust',
  'certificate-ends': 'has a certificate for {days, plural, one {one more day} other {# more days}}',
  open: `is open to everyone, ${ALTHOUGH}`,
  'closed-otherwise': `answers {status} instead of {expected}, ${ALTHOUGH}`,
  'no-challenge': 'asks for a password in a way that browsers do not know',
  'way-home':
    'does not lead home: {way} goes to {leads}, which {end}{more, plural, =0 {} one { (as on # more page)} other { (as on # more pages)}}',
  'way-logo': 'its logo',
  'way-named': 'its “{label}”',
  'end-elsewhere': 'is sent on to {to}',
  'end-other-page': 'is not the home page, {home}',
  'end-too-many': 'is sent on more than {count, number} times',
  'redirect-otherwise': '{difference}',
  'no-release': 'the host says that no release is current',
  'other-release': 'the host says that another release is current',
};

export const liveWayWords: CatalogueOf<typeof liveWay> = {
  'as-written': '{text}',
  'no-answer': 'no answer: {reason}',
  'ends-before': 'ends before {address}',
  status: '{address} answers {found}, not {published}',
  'leads-elsewhere': 'leads to {found}, not to {published}',
  'leads-nowhere': 'leads nowhere, not to {published}',
  'leads-on': 'leads on to {to}',
  differs: 'shows something else than was published',
};

export const headProofWords: CatalogueOf<typeof headProof> = {
  'as-written': '{text}',
  'no-answer': 'no answer: {reason}',
  status: 'the host answers {status}',
  'nothing-answered': 'the host answers nothing',
  missing: 'not there: {line}',
  added: 'added on the way: {line}',
};

export const alertWords: CatalogueOf<typeof alert> = {
  away: 'The site does not answer: {problem}',
  drift:
    'The live host gives something else than the release, since {since}: {address} {finding}{more, plural, =0 {} other {, and # more}}',
  'certificate-over': 'The certificate of {name} has run out; browsers warn visitors away',
  'certificate-ends':
    'The certificate of {name} runs out on {day}{renewsItself, select, yes {, and should have renewed itself by now} other {; it did not come from here, so have it renewed where it did}}',
  'registration-over': 'The registration of {name} has run out; renew it before somebody else takes the name',
  'registration-ends': 'The registration of {name} runs out on {day}; renew it at the registrar',
  'came-down': 'The site has come down after {day}, as it was set to',
  'comes-down': 'The site comes down after {day}',
  spike: '{address} finds nothing and is asked for far more than usual today{more, plural, =0 {} other {, and # more}}',
  log: 'The access log could not be read: {problem}',
};

/** Each stands behind the time of an outage. */
export const outageWords: CatalogueOf<typeof outage> = {
  'answers-status': 'answers {status}',
  'home-not-found': 'the home page is not found',
  'no-answer': 'no answer',
};

export const toldWords: CatalogueOf<typeof told> = {
  'release-live': 'Release {number} is live, published by {by}.',
  'release-failed': 'Release {number} did not go out: {reason}',
  away: 'The site does not answer: {problem}.',
  back: 'The site answers again.',
  alert: '{alert}.',
  'found-otherwise':
    '{count, plural, one {# answer of the live site is} other {# answers of the live site are}} otherwise than published: {findings}.',
  finding: '{address} {finding}',
  try: 'Nothing happened; somebody wanted to see whether this arrives.',
};
