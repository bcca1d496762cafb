// @vitest-environment jsdom
/** What was found when a release was asked for from outside, and the way back. Findings are invented. */
import { inspectionApi, type Inspection } from '@fastigium/contracts/api/inspection';
import { releasesApi } from '@fastigium/contracts/api/releases';
import { finding } from '@fastigium/core/inspection';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { useNotices } from '../../stores/notices.ts';
import { FakeServer } from '../../testing/fakeServer.ts';
import { findButton, readPageText, press } from '../../testing/page.ts';
import { answerSite, isShown, showScreen, SITE } from '../../testing/screen.ts';
import InspectionPanel from './InspectionPanel.vue';

const wrong = (at: number) => ({
  aspect: 'pages' as const,
  address: `/page-${at}/`,
  message: finding('status', { status: 500 }),
  weight: 'wrong' as const,
});
const inspection: Inspection = {
  release: 4,
  origin: 'https://moor.example/',
  at: '2026-11-29T08:00:00.000Z',
  by: { id: SITE, name: 'Ada Stone', initials: 'AS' },
  verdict: 'wrong',
  results: [
    { aspect: 'pages', asked: 1200, wrong: 8, notes: 0 },
    { aspect: 'old addresses', asked: 40, wrong: 0, notes: 0 },
    { aspect: 'types', asked: 1240, wrong: 0, notes: 2 },
  ],
  unasked: 30,
  findings: Array.from({ length: 8 }, (_, at) => wrong(at)),
  findingsInAll: 8,
  oldAddresses: [
    { end: 'page', count: 37 },
    { end: 'missing', count: 3 },
  ],
  before: 3,
};

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  answerSite(server);
  server.answers(inspectionApi.get, { inspection });
});
afterEach(() => {
  document.body.innerHTML = '';
});
const show = async (more: { isLive?: boolean; role?: 'owner' | 'reviewer' } = {}) => {
  const { isLive = true, role = 'owner' } = more;
  const panel = showScreen(InspectionPanel, { role, props: { number: 4, isLive, reload: 0 } });
  await isShown(() => expect(server.asked).toHaveLength(1));
  return panel;
};
const findings = () => document.querySelectorAll('.findings li');

describe('an inspection', () => {
  it('says how many answers it is, without counting any twice, and each aspect’s outcome', async () => {
    await show();
    await isShown(() => expect(readPageText()).toContain('1,240 answers'));
    expect(readPageText()).toContain('of pictures and documents a sample');
    expect(readPageText()).toContain('8 otherwise');
    expect(readPageText()).toContain('3 find nothing');
    expect(readPageText()).toContain('2 worth a look');
  });

  it('shows a few findings, and all of them by a press', async () => {
    await show();
    await isShown(() => expect(findings()).toHaveLength(6));
    await press('Show all 8 findings');
    await isShown(() => expect(findings()).toHaveLength(8));
    await press('Show fewer');
    await isShown(() => expect(findings()).toHaveLength(6));
  });

  it('leads back to the release before, where something is wrong with the live one', async () => {
    server.answers(releasesApi.rollBack, { job: SITE, release: 5 } as never);
    const panel = await show();
    await isShown(() => expect(findButton('Go back to release 3')).toBeDefined());
    await press('Go back to release 3');
    await isShown(() => expect(panel.emitted('asked')).toHaveLength(1));
    expect(server.asked.find(({ endpoint }) => endpoint === releasesApi.rollBack)?.params).toMatchObject({
      number: '3',
    });
  });

  it.each([
    ['one that is not live', { isLive: false }],
    ['who only looks on', { role: 'reviewer' } as const],
  ])('offers no way back to %s', async (_, more) => {
    await show(more);
    await isShown(() => expect(readPageText()).toContain('8 otherwise'));
    expect(findButton('Go back to release 3')).toBeUndefined();
  });

  it('offers no way back where all is as published', async () => {
    server.answers(inspectionApi.get, {
      inspection: { ...inspection, verdict: 'right', findings: [], findingsInAll: 0, results: [] },
    });
    await show();
    await isShown(() => expect(readPageText()).toContain('as published'));
    expect(findButton('Go back to release 3')).toBeUndefined();
    expect(findings()).toHaveLength(0);
  });

  it('is asked for again, and why that failed is said', async () => {
    server.refuses(inspectionApi.ask, 'host-unreachable', { detail: 'connection refused' });
    await show();
    await isShown(() => expect(findButton('Ask again')).toBeDefined());
    await press('Ask again');
    await isShown(() => expect(useNotices().notice?.text).toContain('connection refused'));
  });

  it('of a release that was not asked for is asked for by a press', async () => {
    server.answers(inspectionApi.get, { inspection: null });
    server.answers(inspectionApi.ask, { job: SITE });
    const panel = await show();
    await isShown(() => expect(readPageText()).toContain('The live host was not asked for this release yet.'));
    await press('Ask now');
    await isShown(() => expect(panel.emitted('asked')).toHaveLength(1));
  });
});
