/** The rows of the Survey ledger, view by view. */
import type { Survey } from '@fastigium/contracts/api/imports';
import type { Snag, Snags } from '@fastigium/contracts/api/snags';
import { reckonTreeRows } from '@fastigium/core/site';
import { formatFigure, formatSize } from '../../logic/format.ts';
import type { Mark } from '../../logic/marks.ts';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

export const VIEWS = ['must', 'should', 'dismissed', 'pages', 'assets', 'notes'] as const;
export type SurveyView = (typeof VIEWS)[number];

export interface Cell {
  readonly text: string;
  readonly face?: 'address' | 'strong' | 'quiet' | 'wrong' | 'figure';
}

export interface SurveyItem {
  readonly key: string;
  /** Lower case, for the search. */
  readonly text: string;
  readonly depth: number;
  readonly mark: Mark | undefined;
  readonly cells: readonly Cell[];
  /** Set on rows that head a kind of snags. */
  readonly heading?: { readonly title: string; readonly count: number };
  readonly snag?: Snag;
  readonly source: { readonly path: string; readonly note?: string };
}

export interface Listed {
  readonly survey: Survey;
  readonly snags: Snags | undefined;
}

interface ViewOf {
  readonly layout: { readonly grid: string; readonly columns: readonly { label: string; figure?: boolean }[] };
  readonly items: (listed: Listed) => SurveyItem[];
}

const createItem = (
  key: string,
  cells: Cell[],
  source: SurveyItem['source'],
  more: Partial<SurveyItem> = {},
): SurveyItem => ({
  key,
  cells,
  source,
  depth: 0,
  mark: undefined,
  text: cells
    .map(({ text }) => text)
    .join(' ')
    .toLowerCase(),
  ...more,
});

const SNAG_LAYOUT = {
  grid: 'minmax(0, 4fr) minmax(0, 5fr) 92px',
  columns: [{ label: say('common.where') }, { label: say('common.what') }, { label: '' }],
};

/** Snags under the heads of their kinds, in the order of the checks. */
function createSnagItems({ snags }: Listed, isShown: (snag: Snag) => boolean): SurveyItem[] {
  if (!snags) return [];
  const byCode = new Map<string, Snag[]>();
  for (const snag of snags.snags) {
    if (!isShown(snag)) continue;
    const list = byCode.get(snag.code);
    if (list) list.push(snag);
    else byCode.set(snag.code, [snag]);
  }
  return snags.kinds.flatMap(({ code, title: message }) => {
    const title = speak(message);
    const found = byCode.get(code) ?? [];
    if (found.length === 0) return [];
    const text = title.toLowerCase();
    return [
      createItem(`kind:${code}`, [], { path: '' }, { heading: { title, count: found.length }, text }),
      ...found.map((snag) =>
        createItem(
          snag.key,
          [
            { text: snag.subject },
            { text: speak(snag.detail), face: 'quiet' },
            snag.dismissed
              ? { text: say('surveyRows.by', { initials: snag.dismissed.by.initials }), face: 'quiet' }
              : snag.mend
                ? { text: say('surveyRows.oneStep'), face: 'quiet' }
                : { text: '' },
          ],
          { path: snag.path },
          {
            snag,
            mark: snag.dismissed ? 'dashed' : snag.severity === 'must' ? 'madder' : 'ochre',
            text: `${text} ${snag.subject} ${speak(snag.detail)} ${snag.path}`.toLowerCase(),
          },
        ),
      ),
    ];
  });
}

const must: ViewOf = {
  layout: SNAG_LAYOUT,
  items: (listed) => createSnagItems(listed, ({ severity, dismissed }) => severity === 'must' && !dismissed),
};
const should: ViewOf = {
  layout: SNAG_LAYOUT,
  items: (listed) => createSnagItems(listed, ({ severity, dismissed }) => severity === 'should' && !dismissed),
};
const dismissed: ViewOf = {
  layout: SNAG_LAYOUT,
  items: (listed) => createSnagItems(listed, (snag) => snag.dismissed !== null),
};

const pages: ViewOf = {
  layout: {
    grid: 'minmax(0, 5fr) minmax(0, 4fr) 52px 64px 88px',
    columns: [
      { label: say('common.page') },
      { label: say('common.address') },
      { label: say('surveyRows.lang') },
      { label: say('surveyRows.links'), figure: true },
      { label: say('surveyRows.snags'), figure: true },
    ],
  },
  items: ({ survey, snags }) => {
    const counts = new Map<string, number>();
    for (const { page, dismissed: taken } of snags?.snags ?? [])
      if (page !== null && !taken) counts.set(page, (counts.get(page) ?? 0) + 1);
    return reckonTreeRows(survey.pages).map(({ page, depth }) => {
      const n = counts.get(page.id) ?? 0;
      return createItem(
        page.id,
        [
          page.title ? { text: page.title } : { text: say('common.noTitle'), face: 'wrong' },
          { text: page.address, face: 'address' },
          { text: page.language ?? '', face: 'quiet' },
          { text: formatFigure(page.linksOut), face: 'figure' },
          { text: n > 0 ? formatFigure(n) : '', face: 'figure' },
        ],
        { path: page.sourcePath },
        { depth },
      );
    });
  },
};

const assets: ViewOf = {
  layout: {
    grid: 'minmax(0, 5fr) minmax(0, 3fr) 88px 88px',
    columns: [
      { label: say('surveyRows.file') },
      { label: say('surveyRows.type') },
      { label: say('surveyRows.size'), figure: true },
      { label: say('surveyRows.usedBy'), figure: true },
    ],
  },
  items: ({ survey }) =>
    survey.assets.map((asset) =>
      createItem(
        asset.path,
        [
          { text: `/${asset.path}`, face: 'address' },
          { text: asset.type.split(';')[0] ?? '', face: 'quiet' },
          { text: formatSize(asset.sizeBytes), face: 'figure' },
          asset.uses > 0
            ? { text: formatFigure(asset.uses), face: 'figure' }
            : { text: say('surveyRows.nothing'), face: 'quiet' },
        ],
        { path: asset.path },
      ),
    ),
};

const notes: ViewOf = {
  layout: {
    grid: 'minmax(0, 2fr) minmax(0, 3fr)',
    columns: [{ label: say('surveyRows.file') }, { label: say('common.note') }],
  },
  items: ({ survey }) =>
    survey.notes.map((note, index) =>
      createItem(`${note.path}:${index}`, [{ text: note.path, face: 'address' }, { text: speak(note.message) }], {
        path: note.path,
        note: speak(note.message),
      }),
    ),
};

const BY_VIEW: Readonly<Record<SurveyView, ViewOf>> = { must, should, dismissed, pages, assets, notes };

export const groupSurveyRows = (view: SurveyView): ViewOf => BY_VIEW[view];

/** A search leaves out heads that have nothing left under them. */
export function searchItems(items: readonly SurveyItem[], wanted: string): SurveyItem[] {
  if (wanted === '') return [...items];
  const out: SurveyItem[] = [];
  for (const each of items) {
    if (each.heading && out.at(-1)?.heading) out.pop();
    if (each.heading || each.text.includes(wanted)) out.push(each);
  }
  if (out.at(-1)?.heading) out.pop();
  return out;
}
