import type { notice } from '@fastigium/contracts/messages/notice';
import type { CatalogueOf } from '../catalogue.ts';

export const noticeWords: CatalogueOf<typeof notice> = {
  'as-written': '{text}',
  'swept-by':
    '{person} removed for good {count, plural, one {“{label}”} other {# things, “{label}” among them}}, which you had removed.',
  'swept-by-time':
    '{count, plural, one {“{label}”} other {# things, “{label}” among them}}, which you had removed, went for good: the time it was kept is over.',
  'set-time-missed':
    'The release set for {at} did not go out: Fastigium was not running then. Publish it now, or set another time.',
  'set-time-outdated':
    'The release set for {at} did not go out: a newer export was applied since. Look at what visitors will notice, then publish.',
};
