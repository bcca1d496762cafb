export { finding, type FindingMessage } from './messages.ts';
export { judgeClosed } from './judgeClosed.ts';
export {
  ASPECTS,
  countResults,
  judgeResults,
  type Aspect,
  type AspectResult,
  type Finding,
  type Verdict,
} from './findings.ts';
export {
  readFreshnessSeconds,
  judgeAgain,
  judgeAnswer,
  judgeCertificate,
  judgeNowhere,
  judgeSecurity,
  STALE_PAGE_SECONDS,
  type Answer,
  type Headers,
  type ServedCertificate,
} from './judge.ts';
export { isNotFoundPage, MOST_FILES, planInspection, drawSample, type InspectionPlan, type Question } from './plan.ts';
export { findWaysHome, type LiveLink, type PublishedMenu, type WayHome } from './waysHome.ts';
