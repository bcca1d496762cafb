export { arrangeEdits, arrangement, type Arrangement } from './arrange.ts';
export { swapsOf, addressLed, touchEdits, type AttributeValues, type TouchedPage, type TouchOutcome } from './edits.ts';
export {
  replacesEarlier,
  touchIdentity,
  TOUCHED_ATTRIBUTES,
  type LinkTarget,
  type Scope,
  type SectionRef,
  type Touch,
  type TouchedAttribute,
  type TouchWork,
} from './touch.ts';
