export { isProperty, isSettable, readLine, type LineName } from './lines.ts';
export { readHeading, leadOf, readOwnLines, type OwnLine } from './own.ts';
export {
  SettingIndex,
  keySetting,
  type HeadSetting,
  type HeadSettings,
  type InForce,
  type SettingName,
  type SettingOrigin,
} from './settings.ts';
export { isTitlePattern, PAGE_SLOT, fillTitlePattern, SITE_SLOT } from './titlePattern.ts';
export {
  reckonEffectiveHead,
  type EffectiveHead,
  type EffectiveLine,
  type HeadPage,
  type HeadSite,
  type Origin,
  type PlannedLine,
} from './effective.ts';
export { type Crumb } from './structured.ts';
export { editHead } from './edits.ts';
export { readHeadSource, type SourceLine } from './source.ts';
export { listLanguages, groupTranslatedPages, type TranslatedPage } from './translations.ts';
export { COMMON_LIMITS, cutDescription, cutTitle, isMeasured, countLetters, measureTitlePx } from './titleWidth.ts';
export { suggestDescription, suggestTitle } from './suggest.ts';
export {
  ADDRESS_COLUMN,
  readTable,
  TABLE_COLUMNS,
  writeTableRows,
  type TableChange,
  type TableColumn,
  type TablePage,
  type TableReading,
} from './table.ts';
export { replaceText, type Replacing } from './replace.ts';
export { SITE_SETTINGS, SWITCHES } from './names.ts';
export { findMarkupFault } from './markup.ts';
export { markup, type MarkupMessage } from './markupMessages.ts';
export { createLineMessage } from './lineMessage.ts';
export { line, type LineMessage } from './lineMessages.ts';
