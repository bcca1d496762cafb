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
export { decide, listFilesInQuestion, withQuery, type Answer, type FileSet } from './decide.ts';
export { splitHost, writeWithHost } from './oldHost.ts';
export { walkProof, prove, type Hop, type Proof, type ProofEnd } from './prove.ts';
export { judgeDetour, lintRules, describeRuleProblem, type RuleProblem } from './lint.ts';
export { proposePatterns, type PatternProposal } from './propose.ts';
