import type { letter, preview } from '@fastigium/contracts/messages/letter';
import type { report } from '@fastigium/contracts/messages/report';
import type { CatalogueOf } from '../catalogue.ts';

export const reportWords: CatalogueOf<typeof report> = {
  title: '{site}: release {release}',
  'all-as-published':
    'Everything that was asked for is as it was published: {asked, plural, one {# answer} other {# answers}}.',
  'some-otherwise':
    '{wrong, number} of {asked, plural, one {# answer is} other {# answers are}} otherwise than published.',
  'went-live': 'Release {release} went live on {at}, published by {person}.',
  'went-live-again': 'Release {release} went live on {at}, published by {person}: release {again} again.',
  sent: '{files, plural, one {# file makes} other {# files make}} up the site; {sent, plural, one {# was} other {# were}} sent, {size}.',
  'asked-at': 'Asked at {origin} on {at}.',
  note: '“{note}”',
  'asked-from-outside': 'Asked from outside',
  'sample-alone':
    'Of pictures, styles and documents a sample was asked for; {unasked, plural, one {# was} other {# were}} not.',
  'otherwise-than-published': 'Otherwise than published',
  'worth-a-look': 'Worth a look',
  'and-more': 'and {count, number} more.',
  'old-addresses': 'Old addresses',
  'known-and-accepted': 'Known and accepted',
  'nothing-left': 'Nothing that had to be fixed was left.',
  'more-open':
    '{count, plural, one {# more is} other {# more are}} worth a look and {count, plural, one {holds} other {hold}} nothing up.',
  'new-since': 'What is new since release {release}',
  'new-since-before': 'What is new since before',
  'nothing-visitors-see': 'Nothing visitors see.',

  what: 'What',
  asked: 'Asked',
  'as-published': 'As published',
  otherwise: 'Otherwise',
  address: 'Address',
  addresses: 'Addresses',
  found: 'Found',
  where: 'Where',
  'why-it-stays': 'Why it stays',
  'on-whose-name': 'On whose name',
  kind: 'Kind',
  'visitors-of-old': 'Visitors of an old address',
  'old-address': 'Old address',
  visits: 'Visits',
  steps: 'Steps',
  'ends-at': 'Ends at',
  page: 'Page',
  'visitor-ends-at': 'A visitor ends at',
  'draft-steps': 'Draft: steps',
  'draft-ends-at': 'Draft: ends at',
  'draft-address': 'Draft: address',
  'live-steps': 'Live: steps',
  'live-ends-at': 'Live: ends at',
  'live-address': 'Live: address',
  'live-otherwise': 'Live: otherwise than published',

  'proof-title': 'Proof of redirects: {site}',
  'proof-of-live':
    '{count, plural, one {# old address was} other {# old addresses were}} asked of {origin} on {at} by {person}, while release {release} was live.',
  'proof-of-draft':
    '{count, plural, one {# old address} other {# old addresses}}, followed on the draft; nothing is live that could be asked.',
  'proof-all-right': 'Every answer was as published.',
  'proof-some-otherwise': '{count, number} answered otherwise than published.',
  'made-on': 'Made on {at}.',

  aspect:
    '{of, select, home {Home page and ways to it} pages {Pages} visitors {Closed to who may not visit} addresses {Old addresses} files {Pictures, styles, documents} missing {An address nothing is at} machines {Sitemap, robots.txt, feeds} types {Content types} caching {Caching} security {Security headers} other {Certificate}}',
  group:
    '{of, select, visitors {Visitors} pages {Pages} addresses {Addresses} menus {Menus} metadata {Metadata} redirects {Redirects} other {Files}}',
  'they-end':
    '{at, select, page {reach a page} outside {lead to another site} gone {say that the page is gone for good} missing {find nothing} loop {go in a circle} unasked {gave no answer} other {answer otherwise than published}}',
  'it-ends':
    '{at, select, page {a page} home {the home page} outside {another site} gone {gone for good (410)} missing {nothing} loop {a circle} other {no answer}}',
};

export const letterWords: CatalogueOf<typeof letter> = {
  'password-subject': 'A new password for Fastigium',
  'password-asked': 'Somebody, we hope you, asked for a new password for {email}.',
  'password-set-here': 'Set it here within an hour:',
  'password-not-you': 'If it was not you, nothing has changed, and you need do nothing.',
};

export const previewWords: CatalogueOf<typeof preview> = {
  ended: 'This preview has ended. Open the page in Fastigium again.',
  'site-deleted': 'This site is deleted.',
  'no-address': 'This is not an address.',
  gone: 'Gone for good (410).',
  nothing: 'Nothing answers here in the draft (404).',
  'document-page': 'Page {nth, number} of {name}',
  'document-more': 'and {count, plural, one {# more page} other {# more pages}} on the live site',
  'document-unreadable':
    '{name} cannot be read as a document. Open it on your own machine; visitors would see an error here.',
};
