import type { progressStep } from '@fastigium/contracts/messages/progress';
import type { CatalogueOf } from '../catalogue.ts';

export const stepWords: CatalogueOf<typeof progressStep> = {
  'asking-for-robots': 'Asking for robots.txt',
  'asking-from-outside': 'Asking from outside',
  'asking-live-host': 'Asking the live host',
  'asking-other-hosts': 'Asking other hosts',
  'asking-search-index': 'Asking the search index',
  'checking-pages': 'Checking pages',
  'comparing-pages': 'Comparing old and new pages',
  'compiling-pages': 'Compiling pages',
  'certificate-account': 'Account at the authority',
  'certificate-order': 'Ordering',
  'certificate-prove': 'Proving {name}',
  'certificate-fetch': 'Fetching the certificate',
  'certificate-try': 'Trying {name}',
  crawling: 'Crawling',
  'fetching-sitemap': 'Fetching the sitemap',
  'fetching-upload': 'Fetching the upload',
  'keeping-addresses': 'Keeping the addresses',
  'looking-who-needs-it': 'Looking who else needs it',
  'putting-together': 'Putting the tree together',
  'reading-addresses': 'Reading the addresses',
  'reading-files': 'Reading files',
  'reading-old-pages': 'Reading the old pages',
  sending: 'Sending',
  'taking-pictures': 'Taking pictures',
};
