export { arrangeEdits, arrangeSections, type Arrangement } from './arrange.ts';
export {
  listSwaps,
  resolveLed,
  editTouch,
  type AttributeValues,
  type TouchedPage,
  type TouchOutcome,
} from './edits.ts';
export {
  replacesEarlier,
  identifyTouch,
  TOUCHED_ATTRIBUTES,
  type LinkTarget,
  type Scope,
  type SectionRef,
  type Touch,
  type TouchedAttribute,
  type TouchWork,
} from './touch.ts';
