import { firstElement, textOf } from '../../html/index.ts';
import { spanOf, type PageCheck } from '../check.ts';

export const missingTitle: PageCheck = {
  code: 'title-missing', severity: 'look', title: 'Pages without a title',
  how: 'Write a title: it is what tabs, bookmarks and search results show.', source: 'HTML standard, section 4.2.2; WCAG 2.2, 2.4.2',
  * find({ document }) {
    const title = firstElement(document, 'title');
    if (!title || textOf(title) === '') yield { detail: title ? 'the title is empty' : 'there is no title', ...(title ? spanOf(title) : {}) };
  },
};

/** About as many letters as fit beside each other in a search result. */
const MOST_LETTERS = 70;

export const longTitle: PageCheck = {
  code: 'title-long', severity: 'look', title: 'Titles that are cut off',
  how: 'Say the important words first, in about 60 letters; what follows is often cut off.', source: 'common practice',
  * find({ document }) {
    const title = firstElement(document, 'title');
    const text = title ? textOf(title) : '';
    if (title && text.length > MOST_LETTERS) yield { detail: `${text.length} letters: ${text.slice(0, 60)} …`, ...spanOf(title) };
  },
};
