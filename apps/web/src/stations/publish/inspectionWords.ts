/** How an inspection is told. */
import type { AspectResult, Inspection } from '@fastigium/contracts/api/inspection';
import { count, figure } from '../../logic/format.ts';
import type { Mark } from '../../logic/marks.ts';

export const ASPECT_WORDS: Readonly<Record<AspectResult['aspect'], string>> = {
  home: 'Home page and ways to it',
  pages: 'Pages',
  visitors: 'Closed to who may not visit',
  'old addresses': 'Old addresses',
  files: 'Pictures, styles, documents',
  'not found': 'What is not there says so',
  machines: 'Sitemap, robots.txt, feeds',
  types: 'Content types',
  caching: 'Caching',
  security: 'Security headers',
  certificate: 'Certificate',
};

export const markOf = (verdict: Inspection['verdict']): Mark =>
  (({ right: 'verdigris', noted: 'ochre', wrong: 'madder' }) as const)[verdict];

/** Answers the host gave; what was read off the same answers is not counted twice. */
export const answersAsked = ({ results }: Pick<Inspection, 'results'>): number =>
  results
    .filter(({ aspect }) => aspect !== 'types' && aspect !== 'caching' && aspect !== 'security')
    .reduce((sum, { asked }) => sum + asked, 0);

export function verdictWords({ verdict, results }: Pick<Inspection, 'verdict' | 'results'>): string {
  const sum = (of: 'wrong' | 'notes') => results.reduce((all, each) => all + each[of], 0);
  if (verdict === 'wrong')
    return `${figure(sum('wrong'))} ${sum('wrong') === 1 ? 'answer is' : 'answers are'} otherwise than published`;
  return verdict === 'noted' ? `All as published; ${count(sum('notes'), 'thing')} worth a look` : 'All as published';
}
