/** How an inspection is told. */
import type { AspectResult, Inspection } from '@fastigium/contracts/api/inspection';
import type { Mark } from '../../logic/marks.ts';
import { say } from './words.ts';

export const ASPECT_WORDS: Readonly<Record<AspectResult['aspect'], string>> = {
  home: say('inspection.homePageAndWaysTo'),
  pages: say('common.pages'),
  visitors: say('inspection.closedToWhoMayNot'),
  'old addresses': say('common.oldAddresses'),
  files: say('inspection.picturesStylesDocuments'),
  'not found': say('inspection.whatIsNotThereSays'),
  machines: say('inspection.sitemapRobotsTxtFeeds'),
  types: say('inspection.contentTypes'),
  caching: say('inspection.caching'),
  security: say('inspection.securityHeaders'),
  certificate: say('common.certificate'),
};

export const markOf = (verdict: Inspection['verdict']): Mark =>
  (({ right: 'verdigris', noted: 'ochre', wrong: 'madder' }) as const)[verdict];

/** Answers the host gave; what was read off the same answers is not counted twice. */
export const countAnswersAsked = ({ results }: Pick<Inspection, 'results'>): number =>
  results
    .filter(({ aspect }) => aspect !== 'types' && aspect !== 'caching' && aspect !== 'security')
    .reduce((sum, { asked }) => sum + asked, 0);

export function sayVerdict({ verdict, results }: Pick<Inspection, 'verdict' | 'results'>): string {
  const sum = (field: 'wrong' | 'notes') => results.reduce((all, each) => all + each[field], 0);
  if (verdict === 'wrong') return say('inspection.answersAreOtherwiseThanPublished', { value: sum('wrong') });
  return verdict === 'noted'
    ? say('inspection.allAsPublishedThingsWorth', { value: sum('notes') })
    : say('inspection.allAsPublished');
}
