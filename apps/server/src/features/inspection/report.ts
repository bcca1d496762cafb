/** The report of a release for whoever ordered the site: what went out, what was found from outside, what was known. */
import { report, type ReportMessage } from '@fastigium/contracts/messages/report';
import { formatFigure, LANGUAGE_TAG, speak } from '../../words.ts';
import type { AspectResult, Inspection, InspectionFinding } from '@fastigium/contracts/api/inspection';
import type { Release } from '@fastigium/contracts/api/releases';
import { escapeText, writeKeptPage, writeKeptTable } from '../shared/keptPage.ts';
import { formatBytes } from '../changes/changes.ts';
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
const describeAspect = (aspect: AspectResult['aspect']) => sayMessage(report('aspect', { of: ASPECTS[aspect] }));

export function writeReleaseReport({
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
    `<p class="lead">${sayMessage(wrong === 0 ? report('all-as-published', { asked }) : report('some-otherwise', { wrong, asked }))}</p>`,
    `<p>${describeWentOut(release, inspection).map(sayMessage).join(' ')}</p>`,
    writeHeading(report('asked-from-outside')),
    writeKeptTable(
      [report('what'), report('asked'), report('as-published'), report('otherwise'), report('worth-a-look')].map(speak),
      inspection.results.map((each) => [
        describeAspect(each.aspect),
        formatFigure(each.asked),
        formatFigure(each.asked - each.wrong),
        each.wrong === 0 ? '' : formatFigure(each.wrong),
        each.notes === 0 ? '' : formatFigure(each.notes),
      ]),
    ),
    ...(inspection.unasked > 0 ? [writeParagraph(report('sample-alone', { unasked: inspection.unasked }))] : []),
    ...writeFindings(inspection),
    ...(facts.oldAddresses.length > 0
      ? [
          writeHeading(report('old-addresses')),
          writeKeptTable(
            [report('visitors-of-old'), report('addresses')].map(speak),
            facts.oldAddresses.map(({ end, count }) => [
              sayMessage(report('they-end', { at: endOf(end) })),
              formatFigure(count),
            ]),
          ),
        ]
      : []),
    writeHeading(report('known-and-accepted')),
    facts.taken.length === 0
      ? writeParagraph(report('nothing-left'))
      : writeKeptTable(
          [report('where'), report('what'), report('why-it-stays'), report('on-whose-name')].map(speak),
          facts.taken.map(({ subject, detail, reason, by }) => [
            `<code>${escapeText(subject)}</code>`,
            escapeText(speak(detail)),
            escapeText(reason),
            escapeText(by),
          ]),
        ),
    ...(facts.open > 0 ? [writeParagraph(report('more-open', { count: facts.open }))] : []),
    writeHeading(facts.since === null ? report('new-since-before') : report('new-since', { release: facts.since })),
    facts.changes.length === 0
      ? writeParagraph(report('nothing-visitors-see'))
      : writeKeptTable(
          [report('kind'), report('where'), report('what')].map(speak),
          facts.changes.map(({ group, subject, message }) => [
            sayMessage(report('group', { of: group })),
            escapeText(speak(subject)),
            escapeText(speak(message)),
          ]),
        ),
    ...(facts.changesInAll > facts.changes.length
      ? [writeParagraph(report('and-more', { count: facts.changesInAll - facts.changes.length }))]
      : []),
  ];
  return writeKeptPage(speak(report('title', { site, release: release.number })), parts.join('\n'));
}

function describeWentOut(release: Release, inspection: Inspection): ReportMessage[] {
  const { number, rollbackOf: again, by } = release;
  const live = { release: number, at: formatReportDay(release.liveAt ?? release.createdAt), person: by.name };
  return [
    again === null ? report('went-live', live) : report('went-live-again', { ...live, again }),
    report('sent', { files: release.filesTotal, sent: release.filesSent, size: formatBytes(release.bytesSent) }),
    report('asked-at', { origin: inspection.origin, at: formatReportDay(inspection.at) }),
    ...(release.note === '' ? [] : [report('note', { note: release.note })]),
  ];
}

const ENDS = ['page', 'outside', 'gone', 'missing', 'loop', 'unasked'] as const;
const endOf = (end: string) => ENDS.find((each) => each === end) ?? 'otherwise';
const sayMessage = (message: ReportMessage): string => escapeText(speak(message));
const writeHeading = (message: ReportMessage): string => `<h2>${sayMessage(message)}</h2>`;
const writeParagraph = (message: ReportMessage): string => `<p>${sayMessage(message)}</p>`;

function writeFindings({ findings: all, findingsInAll }: Inspection): string[] {
  if (all.length === 0) return [];
  const rows = (weight: InspectionFinding['weight']) =>
    all
      .filter((each) => each.weight === weight)
      .map(({ aspect, address, message }) => [
        describeAspect(aspect),
        `<code>${escapeText(address)}</code>`,
        escapeText(speak(message)),
      ]);
  const columns = [report('what'), report('address'), report('found')].map(speak);
  const part = (title: ReportMessage, found: string[][]) =>
    found.length === 0 ? [] : [writeHeading(title), writeKeptTable(columns, found)];
  return [
    ...part(report('otherwise-than-published'), rows('wrong')),
    ...part(report('worth-a-look'), rows('note')),
    ...(findingsInAll > all.length ? [writeParagraph(report('and-more', { count: findingsInAll - all.length }))] : []),
  ];
}

/** In UTC, as it is the same wherever the report is read. */
function formatReportDay(instant: string): string {
  return `${new Intl.DateTimeFormat(LANGUAGE_TAG, { day: 'numeric', month: 'long', year: 'numeric', hour: '2-digit', minute: '2-digit', timeZone: 'UTC' }).format(new Date(instant))} UTC`;
}
