// @vitest-environment jsdom
/** Who can visit, set by somebody who shows a site to a client before everyone sees it. Names are invented. */
import { draftApi } from '@fastigium/contracts/api/draft';
import { visitorsApi, type Visitors } from '@fastigium/contracts/api/visitors';
import { decision } from '@fastigium/contracts/messages/decision';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { useNotices } from '../../stores/notices.ts';
import { FakeServer } from '../../testing/fakeServer.ts';
import { findField, findButton, readPageText, press, write } from '../../testing/page.ts';
import { createPageRow } from '../../testing/pageRow.ts';
import { answerSite, isShown, showScreen, SITE } from '../../testing/screen.ts';
import VisitorsPanel from './VisitorsPanel.vue';

const nothingSaid: Visitors = { version: 3, places: [], instead: null, lastDay: null, isEnforced: true };
const branch = { place: SITE, title: 'Members', address: '/members/', kind: 'password', user: 'guest' } as const;

let server: FakeServer;
let visitors: Visitors;
beforeEach(() => {
  visitors = nothingSaid;
  server = new FakeServer();
  answerSite(server);
  server.answers(visitorsApi.get, () => visitors);
  server.answers(draftApi.pages, { version: 3, style: 'imported', pages: [createPageRow(SITE)], removed: [] });
  server.answers(draftApi.decide, { version: 4, message: decision('last-day-removed'), made: null });
});
afterEach(() => {
  document.body.innerHTML = '';
});
const show = async (role: 'owner' | 'reviewer' = 'owner') => {
  showScreen(VisitorsPanel, { role, without: ['PagePicker'] });
  await isShown(() => expect(readPageText()).toContain('The whole site'));
};
const decided = () => server.sentTo(draftApi.decide).map((sent) => sent.decision);
const submit = () => document.querySelector('form')?.dispatchEvent(new Event('submit', { cancelable: true }));
const choose = (name: string) =>
  [...document.querySelectorAll<HTMLElement>('[role=radio]')]
    .find(({ textContent }) => textContent.trim() === name)
    ?.click();

describe('who can visit', () => {
  it('is everyone where nothing was said', async () => {
    await show();
    expect(readPageText()).toContain('everyone');
    expect(readPageText()).not.toContain('is shown instead');
  });

  it('is asked for a password that was made, and that is long enough', async () => {
    await show();
    await press('Change who can visit The whole site');
    await isShown(() => expect(findField('Name they type').value).toBe('guest'));
    const made = findField('Password, 8 letters or more').value;
    expect(made.length).toBeGreaterThanOrEqual(8);
    await press('Make another');
    expect(findField('Password, 8 letters or more').value).not.toBe(made);
    await write('Password, 8 letters or more', 'short');
    expect(findButton('Set it')?.disabled).toBe(true);
    await write('Password, 8 letters or more', 'long enough');
    submit();
    await isShown(() =>
      expect(decided()).toEqual([
        { kind: 'entry', place: null, entry: { kind: 'password', user: 'guest', password: 'long enough' } },
      ]),
    );
    await isShown(() => expect(document.querySelector('form')).toBeNull());
  });

  it('is everyone again by taking back what was said of the whole site', async () => {
    visitors = {
      ...nothingSaid,
      places: [{ place: null, title: 'The whole site', address: '/', kind: 'nobody', user: null }],
    };
    await show();
    expect(readPageText()).toContain('A plain line is shown instead');
    await press('Change who can visit The whole site');
    await isShown(() => expect(document.querySelector('form')).not.toBeNull());
    choose('Everyone');
    await isShown(() => expect(document.querySelector('input')).toBeNull());
    submit();
    await isShown(() => expect(decided()).toEqual([{ kind: 'entry', place: null, entry: null }]));
  });

  it('keeps the form and what was typed where it could not be set', async () => {
    server.refuses(draftApi.decide, 'database-away');
    await show();
    await press('Change who can visit The whole site');
    await isShown(() => expect(findField('Name they type').value).toBe('guest'));
    await write('Name they type', 'client');
    submit();
    await isShown(() => expect(useNotices().notice?.kind).toBe('problem'));
    expect(findField('Name they type').value).toBe('client');
  });

  it('shows a password only when it is asked for', async () => {
    visitors = { ...nothingSaid, places: [branch] };
    server.answers(visitorsApi.passwords, {
      passwords: [{ place: SITE, user: 'guest', password: 'heather-and-peat' }],
    });
    await show();
    expect(server.asked.some(({ endpoint }) => endpoint === visitorsApi.passwords)).toBe(false);
    await press('Show the password of Members');
    await isShown(() => expect(readPageText()).toContain('heather-and-peat'));
  });

  it('ends after a day that is set, and does not end after all', async () => {
    await show();
    await press('Take it down after a day …');
    await isShown(() => expect(findField('Last day it can be visited').value).toMatch(/^\d{4}-\d\d-\d\d$/));
    await write('Last day it can be visited', '2027-03-31');
    visitors = { ...nothingSaid, lastDay: '2027-03-31' };
    submit();
    await isShown(() => expect(decided()).toEqual([{ kind: 'last-day', day: '2027-03-31' }]));
    await isShown(() => expect(readPageText()).toContain('The site comes down after'));
    expect(findButton('Take it down after a day …')).toBeUndefined();
    await press('Keep it up');
    await isShown(() => expect(decided()[1]).toEqual({ kind: 'last-day', day: null }));
  });

  it('says that a host which only keeps files keeps nobody out by itself', async () => {
    visitors = { ...nothingSaid, places: [branch], isEnforced: false };
    await show();
    expect(readPageText()).toContain('It keeps nobody out until its server is told');
  });

  it('is only told to who looks on', async () => {
    visitors = { ...nothingSaid, places: [branch], lastDay: '2027-03-31' };
    await show('reviewer');
    expect(readPageText()).toContain('Members');
    expect(document.querySelectorAll('button')).toHaveLength(0);
  });
});
