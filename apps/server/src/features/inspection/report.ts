/** The report of a release for whoever ordered the site: what went out, what was found from outside, what was known. */
import { report, type ReportMessage } from '@fastigium/contracts/messages/report';
import { speak } from '../../words.ts';
import type { AspectResult, Inspection, InspectionFinding } from '@fastigium/contracts/api/inspection';
import type { Release } from '@fastigium/contracts/api/releases';
import { escaped, keptPage, keptTable } from '../shared/keptPage.ts';
import { bytes } from '../changes/changes.ts';
import type { ReportFacts } from './facts.ts';

const ASPECTS = {
  home: 'home',
  pages: 'pages',
  visitors: 'visitors',
  'old addresses': 'addresses',
  files: 'files',
  'not found': 'missing',
  machines: 'machines',
  types: 'types',
  caching: 'caching',
  security: 'security',
  certificate: 'certificate',
} as const;
const aspectOf = (aspect: AspectResult['aspect']) => saidOf(report('aspect', { of: ASPECTS[aspect] }));

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
    `<p class="lead">${saidOf(wrong === 0 ? report('all-as-published', { asked }) : report('some-otherwise', { wrong, asked }))}</p>`,
    `<p>${wentOut(release, inspection).map(saidOf).join(' ')}</p>`,
    heading(report('asked-from-outside')),
    keptTable(
      [report('what'), report('asked'), report('as-published'), report('otherwise'), report('worth-a-look')].map(speak),
      inspection.results.map((each) => [
        aspectOf(each.aspect),
        figure(each.asked),
        figure(each.asked - each.wrong),
        each.wrong === 0 ? '' : figure(each.wrong),
        each.notes === 0 ? '' : figure(each.notes),
      ]),
    ),
    ...(inspection.unasked > 0 ? [paragraph(report('sample-alone', { unasked: inspection.unasked }))] : []),
    ...findings(inspection),
    ...(facts.oldAddresses.length > 0
      ? [
          heading(report('old-addresses')),
          keptTable(
            [report('visitors-of-old'), report('addresses')].map(speak),
            facts.oldAddresses.map(({ end, count }) => [saidOf(report('they-end', { at: endOf(end) })), figure(count)]),
          ),
        ]
      : []),
    heading(report('known-and-accepted')),
    facts.taken.length === 0
      ? paragraph(report('nothing-left'))
      : keptTable(
          [report('where'), report('what'), report('why-it-stays'), report('on-whose-name')].map(speak),
          facts.taken.map(({ subject, detail, reason, by }) => [
            `<code>${escaped(subject)}</code>`,
            escaped(speak(detail)),
            escaped(reason),
            escaped(by),
          ]),
        ),
    ...(facts.open > 0 ? [paragraph(report('more-open', { count: facts.open }))] : []),
    heading(facts.since === null ? report('new-since-before') : report('new-since', { release: facts.since })),
    facts.changes.length === 0
      ? paragraph(report('nothing-visitors-see'))
      : keptTable(
          [report('kind'), report('where'), report('what')].map(speak),
          facts.changes.map(({ group, subject, message }) => [group, escaped(speak(subject)), escaped(speak(message))]),
        ),
    ...(facts.changesInAll > facts.changes.length
      ? [paragraph(report('and-more', { count: facts.changesInAll - facts.changes.length }))]
      : []),
  ];
  return keptPage(speak(report('title', { site, release: release.number })), parts.join('\n'));
}

function wentOut(release: Release, inspection: Inspection): ReportMessage[] {
  const { number, rollbackOf: again, by } = release;
  const live = { release: number, at: day(release.liveAt ?? release.createdAt), person: by.name };
  return [
    again === null ? report('went-live', live) : report('went-live-again', { ...live, again }),
    report('sent', { files: release.filesTotal, sent: release.filesSent, size: bytes(release.bytesSent) }),
    report('asked-at', { origin: inspection.origin, at: day(inspection.at) }),
    ...(release.note === '' ? [] : [report('note', { note: release.note })]),
  ];
}

const ENDS = ['page', 'outside', 'gone', 'missing', 'loop', 'unasked'] as const;
const endOf = (end: string) => ENDS.find((each) => each === end) ?? 'otherwise';
const saidOf = (message: ReportMessage): string => escaped(speak(message));
const heading = (message: ReportMessage): string => `<h2>${saidOf(message)}</h2>`;
const paragraph = (message: ReportMessage): string => `<p>${saidOf(message)}</p>`;

function findings({ findings: all, findingsInAll }: Inspection): string[] {
  if (all.length === 0) return [];
  const rows = (weight: InspectionFinding['weight']) =>
    all
      .filter((each) => each.weight === weight)
      .map(({ aspect, address, message }) => [
        aspectOf(aspect),
        `<code>${escaped(address)}</code>`,
        escaped(speak(message)),
      ]);
  const columns = [report('what'), report('address'), report('found')].map(speak);
  const part = (title: ReportMessage, found: string[][]) =>
    found.length === 0 ? [] : [heading(title), keptTable(columns, found)];
  return [
    ...part(report('otherwise-than-published'), rows('wrong')),
    ...part(report('worth-a-look'), rows('note')),
    ...(findingsInAll > all.length ? [paragraph(report('and-more', { count: findingsInAll - all.length }))] : []),
  ];
}

const figure = (n: number): string => n.toLocaleString('en');

/** In UTC, as it is the same wherever the report is read. */
function day(instant: string): string {
  return `${new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric', hour: '2-digit', minute: '2-digit', timeZone: 'UTC' }).format(new Date(instant))} UTC`;
}
