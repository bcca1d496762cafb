/** The report of a release for whoever ordered the site: what went out, what was found from outside, what was known. */
import { speak } from '../../words.ts';
import type { AspectResult, Inspection, InspectionFinding } from '@fastigium/contracts/api/inspection';
import type { Release } from '@fastigium/contracts/api/releases';
import { escaped, keptPage, keptTable } from '../shared/keptPage.ts';
import { bytes } from '../changes/changes.ts';
import type { ReportFacts } from './facts.ts';

const ASPECT_WORDS: Readonly<Record<AspectResult['aspect'], string>> = {
  home: 'Home page and ways to it',
  pages: 'Pages',
  visitors: 'Closed to who may not visit',
  'old addresses': 'Old addresses',
  files: 'Pictures, styles, documents',
  'not found': 'An address nothing is at',
  machines: 'Sitemap, robots.txt, feeds',
  types: 'Content types',
  caching: 'Caching',
  security: 'Security headers',
  certificate: 'Certificate',
};
const END_WORDS: Readonly<Record<string, string>> = {
  page: 'reach a page',
  outside: 'lead to another site',
  gone: 'say that the page is gone for good',
  missing: 'find nothing',
  loop: 'go in a circle',
  unasked: 'gave no answer',
  otherwise: 'answer otherwise than published',
};

export function releaseReport({
  site,
  release,
  inspection,
  facts,
}: {
  readonly site: string;
  readonly release: Release;
  readonly inspection: Inspection;
  readonly facts: ReportFacts;
}): string {
  const wrong = inspection.results.reduce((sum, each) => sum + each.wrong, 0);
  const asked = inspection.results
    .filter(({ aspect }) => aspect !== 'types' && aspect !== 'caching')
    .reduce((sum, each) => sum + each.asked, 0);
  const parts = [
    `<p class="lead">${wrong === 0 ? `Everything that was asked for is as it was published: ${figure(asked)} answers.` : `${figure(wrong)} of ${figure(asked)} answers are otherwise than published.`}</p>`,
    `<p>Release ${release.number} went live on ${escaped(day(release.liveAt ?? release.createdAt))}, published by ${escaped(release.by.name)}${release.rollbackOf === null ? '' : `: release ${release.rollbackOf} again`}. ${figure(release.filesTotal)} files make up the site; ${figure(release.filesSent)} were sent, ${bytes(release.bytesSent)}. Asked at ${escaped(inspection.origin)} on ${escaped(day(inspection.at))}.${release.note === '' ? '' : ` “${escaped(release.note)}”`}</p>`,
    '<h2>Asked from outside</h2>',
    keptTable(
      ['What', 'Asked', 'As published', 'Otherwise', 'Worth a look'],
      inspection.results.map((each) => [
        ASPECT_WORDS[each.aspect],
        figure(each.asked),
        figure(each.asked - each.wrong),
        each.wrong === 0 ? '' : figure(each.wrong),
        each.notes === 0 ? '' : figure(each.notes),
      ]),
    ),
    ...(inspection.unasked > 0
      ? [`<p>Of pictures, styles and documents a sample was asked for; ${figure(inspection.unasked)} were not.</p>`]
      : []),
    ...findings(inspection),
    ...(facts.oldAddresses.length > 0
      ? [
          '<h2>Old addresses</h2>',
          keptTable(
            ['Visitors of an old address', 'Addresses'],
            facts.oldAddresses.map(({ end, count }) => [END_WORDS[end] ?? escaped(end), figure(count)]),
          ),
        ]
      : []),
    '<h2>Known and accepted</h2>',
    facts.taken.length === 0
      ? '<p>Nothing that had to be fixed was left.</p>'
      : keptTable(
          ['Where', 'What', 'Why it stays', 'On whose name'],
          facts.taken.map(({ subject, detail, reason, by }) => [
            `<code>${escaped(subject)}</code>`,
            escaped(speak(detail)),
            escaped(reason),
            escaped(by),
          ]),
        ),
    ...(facts.open > 0 ? [`<p>${figure(facts.open)} more are worth a look and hold nothing up.</p>`] : []),
    `<h2>What is new since ${facts.since === null ? 'before' : `release ${facts.since}`}</h2>`,
    facts.changes.length === 0
      ? '<p>Nothing visitors see.</p>'
      : keptTable(
          ['Kind', 'Where', 'What'],
          facts.changes.map(({ group, subject, message }) => [group, escaped(speak(subject)), escaped(speak(message))]),
        ),
    ...(facts.changesInAll > facts.changes.length
      ? [`<p>and ${figure(facts.changesInAll - facts.changes.length)} more.</p>`]
      : []),
  ];
  return keptPage(`${site}: release ${release.number}`, parts.join('\n'));
}

function findings({ findings: all, findingsInAll }: Inspection): string[] {
  if (all.length === 0) return [];
  const rows = (weight: InspectionFinding['weight']) =>
    all
      .filter((each) => each.weight === weight)
      .map(({ aspect, address, message }) => [
        ASPECT_WORDS[aspect],
        `<code>${escaped(address)}</code>`,
        escaped(speak(message)),
      ]);
  const part = (title: string, of: string[][]) =>
    of.length === 0 ? [] : [`<h2>${title}</h2>`, keptTable(['What', 'Address', 'Found'], of)];
  return [
    ...part('Otherwise than published', rows('wrong')),
    ...part('Worth a look', rows('note')),
    ...(findingsInAll > all.length ? [`<p>and ${figure(findingsInAll - all.length)} more.</p>`] : []),
  ];
}

const figure = (n: number): string => n.toLocaleString('en');

/** In UTC, as it is the same wherever the report is read. */
function day(instant: string): string {
  return `${new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric', hour: '2-digit', minute: '2-digit', timeZone: 'UTC' }).format(new Date(instant))} UTC`;
}
