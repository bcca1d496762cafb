export {
  isOver,
  isRedirect,
  parseRules,
  REDIRECT_STATUSES,
  serialiseRules,
  type PatternRedirect,
  type Redirect,
  type RedirectStatus,
  type RedirectTarget,
  type Rule,
  type RuleOptions,
  type RuleTerm,
} from './rule.ts';
export {
  liveWay,
  patternFault,
  ruleFault,
  unread,
  unsaid,
  type LiveWayMessage,
  type PatternMessage,
  type RuleFaultMessage,
  type UnreadMessage,
  type UnsaidMessage,
} from './messages.ts';
export type { NotRead } from './notRead.ts';
export { indexRules, RuleIndex } from './ruleIndex.ts';
export { decide, filesInQuestion, withQuery, type Answer, type FileSet } from './decide.ts';
export { hostOf, ofHost } from './oldHost.ts';
export { proofSteps, prove, type Hop, type Proof, type ProofEnd } from './prove.ts';
export { detourOf, lintRules, messageOfProblem, type RuleProblem } from './lint.ts';
export { proposePatterns, type PatternProposal } from './propose.ts';
