export {
  indexRules, isRedirect, parseRules, REDIRECT_STATUSES, serialiseRules,
  type Redirect, type RedirectStatus, type RedirectTarget, type Rule, type RuleIndex,
} from './rule.ts';
export { decide, filesInQuestion, withQuery, type Answer, type FileSet } from './decide.ts';
export { proofSteps, prove, type Hop, type Proof, type ProofEnd } from './prove.ts';
