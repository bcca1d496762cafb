export {
  check,
  mend,
  question,
  remedy,
  remedyOf,
  snag,
  titleOf,
  type CheckCode,
  type CheckMessage,
  type MendMessage,
  type QuestionMessage,
  type RemedyMessage,
  type SnagDetail,
  type SnagMessage,
} from './messages.ts';
export {
  spanOf,
  type Check,
  type CheckedPage,
  type Finding,
  type LineWork,
  type Mend,
  type PageCheck,
  type Severity,
} from './check.ts';
export { pageFacts, styleFacts, type LinkFact, type PageFacts } from './facts.ts';
export { ALL_CHECKS, checkOf, METADATA_CODES } from './catalogue.ts';
export { PAGE_CHECKS } from './page/index.ts';
export {
  checkedPage,
  checkPage,
  SheetCache,
  type CheckedResult,
  type CheckSurroundings,
  type PageToCheck,
} from './run.ts';
export { deadAnchor, deadAnchors, deadLink, deadLinks, type Landing } from './site/deadLinks.ts';
export { doubled, doubledDescription, doubledTitle } from './site/doubled.ts';
export {
  caseTwins,
  doubledPicture,
  heaviness,
  heavyPicture,
  isSamplePicture,
  nameCase,
  samplePicture,
  secretFile,
  secretKind,
} from './site/files.ts';
export { listingContent, listingUnreached, menuDiffers } from './site/structure.ts';
export { orphanPage, shutsAll, shutSite } from './site/reach.ts';
export { landingOf, surveySite, type SiteFile, type SurveySnag } from './survey.ts';
export { canonicalGone, conflictMessage, headConflict, shareSmallness, smallSharePicture } from './site/heads.ts';
