/** Every check of single pages. */
import type { PageCheck } from '../check.ts';
import { missingAlt } from './alternativeText.ts';
import { missingCharset } from './charset.ts';
import { lowContrast } from './contrast.ts';
import { longDescription, missingDescription } from './description.ts';
import { emptyLink } from './emptyLink.ts';
import { doubledLine, faultyData, relativeCanonical, unknownLanguage } from './head.ts';
import { headingOrder } from './headings.ts';
import { missingLanguage } from './language.ts';
import { mixedContent } from './mixedContent.ts';
import { openerLink } from './newWindow.ts';
import { shutPage } from './noIndex.ts';
import { officeDocument } from './officeDocument.ts';
import { missingDimensions } from './pictureSize.ts';
import { privateLink } from './privateLink.ts';
import { sampleText } from './sampleText.ts';
import { stagingLink } from './stagingLink.ts';
import { longTitle, missingTitle } from './title.ts';
import { uncheckedPage } from './unchecked.ts';
import { missingViewport } from './viewport.ts';

export const PAGE_CHECKS: readonly PageCheck[] = [
  sampleText,
  privateLink,
  stagingLink,
  emptyLink,
  missingTitle,
  longTitle,
  missingDescription,
  longDescription,
  missingLanguage,
  unknownLanguage,
  doubledLine,
  relativeCanonical,
  faultyData,
  missingViewport,
  missingCharset,
  headingOrder,
  missingAlt,
  missingDimensions,
  mixedContent,
  lowContrast,
  officeDocument,
  openerLink,
  shutPage,
  uncheckedPage,
];
