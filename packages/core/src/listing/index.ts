export { writeAtomFeed, type Feed } from './atom.ts';
export { addressFeed, planListing, sortNewestFirst, addressPage, type Entry, type ListingPlan } from './entries.ts';
export { editListing, findOtherContent, findOwnList, type ListingPlace } from './write.ts';
