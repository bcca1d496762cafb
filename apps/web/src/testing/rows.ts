/** Rows for tests: ones that nothing special is said of, with what a test says of them. */
import type { MetadataRow } from '@fastigium/contracts/api/metadata';
import type { RedirectRow } from '@fastigium/contracts/api/redirects';
import type { Release } from '@fastigium/contracts/api/releases';

/** Of the table of metadata, with lines as they were imported. */
export function createMetadataRow(
  id: string,
  title: string,
  description: string,
  more: Partial<MetadataRow> = {},
): MetadataRow {
  const imported = (text: string) => ({ text, from: 'imported' as const });
  return {
    id,
    address: `/${id}/`,
    label: title,
    depth: 0,
    isReady: true,
    title: imported(title),
    description: imported(description),
    language: imported('en'),
    shareTitle: imported(''),
    shareImage: imported(''),
    robots: imported(''),
    canonical: imported(''),
    ownTitle: title,
    conflicts: 0,
    suggestedDescription: '',
    suggestedTitle: '',
    ...more,
  };
}

/** An old address that is open, and that nothing is suggested for. */
export const createRedirectRow = (from: string, more: Partial<RedirectRow> = {}): RedirectRow => ({
  from,
  visits: null,
  kind: 'page',
  noise: null,
  origin: 'open',
  status: null,
  to: null,
  toTitle: null,
  toPage: null,
  target: null,
  dropsQuery: false,
  ignoreCase: false,
  anySlash: false,
  note: null,
  until: null,
  end: 'missing',
  problem: null,
  suggestion: null,
  ...more,
});

/** A release that went live and was followed by another. */
export const createRelease = (number: number, more: Partial<Release> = {}): Release => ({
  id: `00000000-0000-4000-8000-00000000010${number}`,
  number,
  state: 'past',
  note: '',
  by: { id: '00000000-0000-4000-8000-000000000001', name: 'Ada Stone', initials: 'AS' },
  createdAt: '2026-11-20T08:00:00.000Z',
  liveAt: '2026-11-20T08:00:00.000Z',
  rollbackOf: null,
  filesTotal: 9,
  filesSent: 2,
  bytesSent: 4100,
  error: null,
  job: null,
  isPinned: false,
  verdict: null,
  ...more,
});
