export {
  check,
  mend,
  question,
  remedy,
  createRemedy,
  snag,
  createCheckTitle,
  type CheckCode,
  type CheckMessage,
  type MendMessage,
  type QuestionMessage,
  type RemedyMessage,
  type SnagDetail,
  type SnagMessage,
} from './messages.ts';
export {
  findSpan,
  type Check,
  type CheckedPage,
  type Finding,
  type LineWork,
  type Mend,
  type PageCheck,
  type Severity,
} from './check.ts';
export { gatherPageFacts, gatherStyleFacts, type LinkFact, type PageFacts } from './facts.ts';
export { ALL_CHECKS, checkOf, METADATA_CODES } from './catalogue.ts';
export { PAGE_CHECKS } from './page/index.ts';
export {
  readCheckedPage,
  checkPage,
  SheetCache,
  type CheckedResult,
  type CheckSurroundings,
  type PageToCheck,
} from './run.ts';
export { deadAnchor, findDeadAnchors, deadLink, findDeadLinks, type Landing } from './site/deadLinks.ts';
export { findDoubled, doubledDescription, doubledTitle } from './site/doubled.ts';
export {
  findCaseTwins,
  doubledPicture,
  judgeHeaviness,
  heavyPicture,
  isSamplePicture,
  nameCase,
  samplePicture,
  secretFile,
  judgeSecret,
} from './site/files.ts';
export { listingContent, listingUnreached, menuDiffers } from './site/structure.ts';
export { orphanPage, isShuttingAll, shutSite } from './site/reach.ts';
export { createLanding, surveySite, type SiteFile, type SurveySnag } from './survey.ts';
export { canonicalGone, describeConflict, headConflict, shareSmallness, smallSharePicture } from './site/heads.ts';
