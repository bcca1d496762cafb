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
export { liveWay, type LiveWayMessage } from './messages.ts';
export { indexRules, RuleIndex } from './ruleIndex.ts';
export { decide, filesInQuestion, withQuery, type Answer, type FileSet } from './decide.ts';
export { hostOf, ofHost } from './oldHost.ts';
export { proofSteps, prove, type Hop, type Proof, type ProofEnd } from './prove.ts';
export { detourOf, lintRules, problemWords, type RuleProblem } from './lint.ts';
export { proposePatterns, type PatternProposal } from './propose.ts';
