/** The proof in forms that can be kept: a table, and a page that needs nothing else. */
import { report, type ReportMessage } from '@fastigium/contracts/messages/report';
import { formatFigure, speak } from '../../../words.ts';
import type { ProofEnd, ProofRow, RedirectProof } from '@fastigium/contracts/api/redirectProof';
import { stringify } from 'csv-stringify/sync';
import { escapeText, writeKeptPage, writeKeptTable } from '../../shared/keptPage.ts';

const endOf = (end: ProofEnd): string => speak(report('it-ends', { at: end }));

const COLUMNS = [
  report('old-address'),
  report('visits'),
  report('draft-steps'),
  report('draft-ends-at'),
  report('draft-address'),
  report('live-steps'),
  report('live-ends-at'),
  report('live-address'),
  report('live-otherwise'),
];

export function writeProofTable(proof: RedirectProof): string {
  const rows = proof.rows.map(({ from, visits, draft, live }) => [
    from,
    visits === null ? '' : String(visits),
    writeSteps(draft.hops),
    endOf(draft.end),
    draft.final ?? '',
    live ? writeSteps(live.hops) : '',
    live ? endOf(live.end) : '',
    live?.final ?? '',
    live?.problem ? speak(live.problem) : '',
  ]);
  return stringify([COLUMNS.map(speak), ...rows], { bom: true, record_delimiter: 'windows', escape_formulas: true });
}

function writeSteps(hops: ProofRow['draft']['hops']): string {
  return hops.map(({ address, status }) => `${address} ${status}`).join(' → ');
}

export function writeProofPage(
  proof: RedirectProof,
  { site, madeAt }: { readonly site: string; readonly madeAt: string },
): string {
  const { live, rows } = proof;
  const asked = live !== null;
  const counted = new Map<string, { addresses: number; visits: number }>();
  for (const row of rows) {
    const words = endOf((asked ? row.live?.end : row.draft.end) ?? 'unasked');
    const sum = counted.get(words) ?? { addresses: 0, visits: 0 };
    counted.set(words, { addresses: sum.addresses + 1, visits: sum.visits + (row.visits ?? 0) });
  }
  const otherwise = rows.filter(({ live: way }) => way?.problem != null).length;
  const found: readonly ReportMessage[] =
    live === null
      ? [report('proof-of-draft', { count: rows.length })]
      : [
          report('proof-of-live', {
            count: rows.length,
            origin: live.origin,
            at: live.at,
            person: live.by.name,
            release: live.release,
          }),
          otherwise === 0 ? report('proof-all-right') : report('proof-some-otherwise', { count: otherwise }),
        ];
  const summary = [...found, report('made-on', { at: madeAt })];
  const ends = [...counted]
    .sort((a, b) => b[1].visits - a[1].visits || b[1].addresses - a[1].addresses)
    .map(([words, sum]) => [words, formatFigure(sum.addresses), formatFigure(sum.visits)]);
  return writeKeptPage(
    speak(report('proof-title', { site })),
    [
      `<p>${summary.map((each) => escapeText(speak(each))).join(' ')}</p>`,
      writeKeptTable([report('visitor-ends-at'), report('old-addresses'), report('visits')].map(speak), ends),
      writeKeptTable(
        [
          report('old-address'),
          report('visits'),
          report('steps'),
          report('ends-at'),
          report('page'),
          ...(asked ? [report('otherwise-than-published')] : []),
        ].map(speak),
        rows.map((row) => {
          const way = (asked ? row.live : row.draft) ?? { hops: [], end: 'unasked' as const, final: null };
          return [
            `<code>${escapeText(row.from)}</code>`,
            row.visits === null ? '' : formatFigure(row.visits),
            `<code>${escapeText(writeSteps(way.hops))}</code>`,
            escapeText(endOf(way.end)),
            escapeText(row.title ?? way.final ?? ''),
            ...(asked ? [escapeText(row.live?.problem ? speak(row.live.problem) : '')] : []),
          ];
        }),
      ),
    ].join('\n'),
  );
}
