/** The proof in forms that can be kept: a table, and a page that needs nothing else. */
import { speak } from '../../../words.ts';
import type { ProofEnd, ProofRow, RedirectProof } from '@fastigium/contracts/api/redirectProof';
import { stringify } from 'csv-stringify/sync';
import { escaped, keptPage, keptTable } from '../../shared/keptPage.ts';

const END_WORDS: Readonly<Record<ProofEnd, string>> = {
  page: 'a page',
  home: 'the home page',
  outside: 'another site',
  gone: 'gone for good (410)',
  missing: 'nothing',
  loop: 'a circle',
  unasked: 'no answer',
};

const COLUMNS = [
  'Old address',
  'Visits',
  'Draft: steps',
  'Draft: ends at',
  'Draft: address',
  'Live: steps',
  'Live: ends at',
  'Live: address',
  'Live: otherwise than published',
];

export function proofTable(proof: RedirectProof): string {
  const rows = proof.rows.map(({ from, visits, draft, live }) => [
    from,
    visits === null ? '' : String(visits),
    steps(draft.hops),
    END_WORDS[draft.end],
    draft.final ?? '',
    live ? steps(live.hops) : '',
    live ? END_WORDS[live.end] : '',
    live?.final ?? '',
    live?.problem ? speak(live.problem) : '',
  ]);
  return stringify([COLUMNS, ...rows], { bom: true, record_delimiter: 'windows', escape_formulas: true });
}

function steps(hops: ProofRow['draft']['hops']): string {
  return hops.map(({ address, status }) => `${address} ${status}`).join(' → ');
}

export function proofPage(
  proof: RedirectProof,
  { site, madeAt }: { readonly site: string; readonly madeAt: string },
): string {
  const { live, rows } = proof;
  const asked = live !== null;
  const counted = new Map<string, { addresses: number; visits: number }>();
  for (const row of rows) {
    const words = END_WORDS[(asked ? row.live?.end : row.draft.end) ?? 'unasked'];
    const sum = counted.get(words) ?? { addresses: 0, visits: 0 };
    counted.set(words, { addresses: sum.addresses + 1, visits: sum.visits + (row.visits ?? 0) });
  }
  const otherwise = rows.filter(({ live: way }) => way?.problem != null).length;
  const figure = (n: number) => n.toLocaleString('en');
  const summary = `${asked ? `${figure(rows.length)} old addresses were asked of ${escaped(live.origin)} on ${escaped(live.at)} by ${escaped(live.by.name)}, while release ${live.release} was live. ${otherwise === 0 ? 'Every answer was as published.' : `${figure(otherwise)} answered otherwise than published.`}` : `${figure(rows.length)} old addresses, followed on the draft; nothing is live that could be asked.`} Made on ${escaped(madeAt)}.`;
  const ends = [...counted]
    .sort((a, b) => b[1].visits - a[1].visits || b[1].addresses - a[1].addresses)
    .map(([words, sum]) => [words, figure(sum.addresses), figure(sum.visits)]);
  return keptPage(
    `Proof of redirects: ${site}`,
    [
      `<p>${summary}</p>`,
      keptTable(['A visitor ends at', 'Old addresses', 'Visits'], ends),
      keptTable(
        ['Old address', 'Visits', 'Steps', 'Ends at', 'Page', ...(asked ? ['Otherwise than published'] : [])],
        rows.map((row) => {
          const way = (asked ? row.live : row.draft) ?? { hops: [], end: 'unasked' as const, final: null };
          return [
            `<code>${escaped(row.from)}</code>`,
            row.visits === null ? '' : figure(row.visits),
            `<code>${escaped(steps(way.hops))}</code>`,
            escaped(END_WORDS[way.end]),
            escaped(row.title ?? way.final ?? ''),
            ...(asked ? [escaped(row.live?.problem ? speak(row.live.problem) : '')] : []),
          ];
        }),
      ),
    ].join('\n'),
  );
}
