export { explain, type Explained } from './explain.ts';
export { match, matchSteps, LATER_ROUNDS, type Match, type Suggestion } from './match.ts';
export { type NewPage, type OldPage, type Settled } from './pages.ts';
// For learning the weights.
export { BRANCH_EVIDENCE } from './branches.ts';
export { ADDRESS_EVIDENCE, EVIDENCE } from './evidence.ts';
export { Matcher, type Compared } from './matcher.ts';
export {
  BRANCH_LENGTH,
  KNOWLEDGE,
  NONE_EVIDENCE,
  NONE_LENGTH,
  PAIR_LENGTH,
  applySoftmax,
  type Calibration,
  type Model,
  type Weights,
} from './model.ts';
export { believeFirst, hold, holdMore, believeLater, teach, type Belief } from './rounds.ts';
