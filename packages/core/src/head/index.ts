export { isProperty, isSettable, lineOf, type LineName } from './lines.ts';
export { headingOf, leadOf, ownLines, type OwnLine } from './own.ts';
export {
  SettingIndex,
  settingKey,
  type HeadSetting,
  type HeadSettings,
  type InForce,
  type SettingName,
  type SettingOrigin,
} from './settings.ts';
export { isTitlePattern, PAGE_SLOT, patternedTitle, SITE_SLOT } from './titlePattern.ts';
export {
  effectiveHead,
  type EffectiveHead,
  type EffectiveLine,
  type HeadPage,
  type HeadSite,
  type Origin,
  type PlannedLine,
} from './effective.ts';
export { type Crumb } from './structured.ts';
export { headEdits } from './edits.ts';
export { headSource, type SourceLine } from './source.ts';
export { languagesOf, translationGroups, type TranslatedPage } from './translations.ts';
export { COMMON_LIMITS, cutDescription, cutTitle, isMeasured, lettersOf, titleWidthPx } from './titleWidth.ts';
export { suggestDescription, suggestTitle } from './suggest.ts';
export {
  ADDRESS_COLUMN,
  readTable,
  TABLE_COLUMNS,
  tableRows,
  type TableChange,
  type TableColumn,
  type TablePage,
  type TableReading,
} from './table.ts';
export { replaceText, type Replacing } from './replace.ts';
export { SITE_SETTINGS, SWITCHES } from './names.ts';
export { markupFault } from './markup.ts';
export { markup, type MarkupMessage } from './markupMessages.ts';
export { lineMessage } from './lineMessage.ts';
export { line, type LineMessage } from './lineMessages.ts';
