/** The Survey's four lists as rows of one shape. */
import type { Survey } from '@fastigium/contracts/api/imports';
import { treeRows } from '@fastigium/core/site';
import { figure, size } from '../../logic/format.ts';

export const VIEWS = ['pages', 'assets', 'links', 'notes'] as const;
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
  readonly cells: readonly Cell[];
  readonly source: { readonly path: string; readonly href?: string; readonly element?: string; readonly target?: string; readonly note?: string };
}

interface ViewOf {
  readonly layout: { readonly grid: string; readonly columns: readonly { label: string; figure?: boolean }[] };
  readonly items: (survey: Survey) => SurveyItem[];
}

const item = (key: string, cells: Cell[], source: SurveyItem['source'], depth = 0): SurveyItem => ({
  key, cells, source, depth, text: cells.map(({ text }) => text).join(' ').toLowerCase(),
});

const pages: ViewOf = {
  layout: {
    grid: 'minmax(0, 5fr) minmax(0, 4fr) 52px 64px 88px',
    columns: [{ label: 'Page' }, { label: 'Address' }, { label: 'Lang.' }, { label: 'Links', figure: true }, { label: 'Dead', figure: true }],
  },
  items: (survey) => treeRows(survey.pages).map(({ page, depth }) =>
    item(page.id, [
      page.title ? { text: page.title } : { text: 'no title', face: 'wrong' },
      { text: page.address, face: 'address' },
      { text: page.language ?? '', face: 'quiet' },
      { text: figure(page.linksOut), face: 'figure' },
      page.deadLinks > 0 ? { text: `${page.deadLinks} dead`, face: 'wrong' } : { text: '', face: 'figure' },
    ], { path: page.sourcePath }, depth)),
};

const assets: ViewOf = {
  layout: {
    grid: 'minmax(0, 5fr) minmax(0, 3fr) 88px 88px',
    columns: [{ label: 'File' }, { label: 'Type' }, { label: 'Size', figure: true }, { label: 'Used by', figure: true }],
  },
  items: (survey) => survey.assets.map((asset) =>
    item(asset.path, [
      { text: `/${asset.path}`, face: 'address' }, { text: asset.type.split(';')[0] ?? '', face: 'quiet' }, { text: size(asset.sizeBytes), face: 'figure' },
      asset.uses > 0 ? { text: figure(asset.uses), face: 'figure' } : { text: 'nothing', face: 'quiet' },
    ], { path: asset.path })),
};

const links: ViewOf = {
  layout: { grid: 'minmax(0, 4fr) minmax(0, 4fr) 64px', columns: [{ label: 'Link leads nowhere' }, { label: 'Stands in' }, { label: 'Element' }] },
  items: (survey) => survey.links.dead.map((link, index) =>
    item(`${link.from}:${index}`, [
      { text: link.href, face: 'address' }, { text: link.fromTitle ?? `/${link.from}` }, { text: link.element, face: 'quiet' },
    ], { path: link.from, href: link.href, element: link.element, target: link.target })),
};

const notes: ViewOf = {
  layout: { grid: 'minmax(0, 2fr) minmax(0, 3fr)', columns: [{ label: 'File' }, { label: 'Note' }] },
  items: (survey) => survey.notes.map((note, index) =>
    item(`${note.path}:${index}`, [{ text: note.path, face: 'address' }, { text: note.text }], { path: note.path, note: note.text })),
};

const BY_VIEW: Readonly<Record<SurveyView, ViewOf>> = { pages, assets, links, notes };

export const rowsOf = (view: SurveyView): ViewOf => BY_VIEW[view];
