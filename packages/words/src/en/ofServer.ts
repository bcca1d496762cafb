/** What only the server says: printed reports, mail, and previews that have nothing to show. */
import type { Catalogue } from '../catalogue.ts';
import { letterWords, previewWords, reportWords } from './report.ts';

export const ofServer: Catalogue<string> = { letter: letterWords, preview: previewWords, report: reportWords };
