export { atomFeed, type Feed } from './atom.ts';
export { feedAddress, listingPlans, newestFirst, pageAddress, type Entry, type ListingPlan } from './entries.ts';
export { listingEdits, otherContent, ownList, type ListingPlace } from './write.ts';
