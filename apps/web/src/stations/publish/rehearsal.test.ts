// @vitest-environment jsdom
/** What a rehearsal found, and the way to another one. */
import { rehearsalApi, type Rehearsal } from '@fastigium/contracts/api/rehearsal';
import { finding } from '@fastigium/core/inspection';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { useNotices } from '../../stores/notices.ts';
import { FakeServer } from '../../testing/fakeServer.ts';
import { isShown, showScreen, SITE } from '../../testing/screen.ts';
import RehearsalPanel from './RehearsalPanel.vue';

const rehearsal: Rehearsal = {
  origin: 'http://moor-rehearsal.example/',
  version: 2,
  at: '2026-11-29T08:00:00.000Z',
  by: { id: SITE, name: 'Ada Stone', initials: 'AS' },
  verdict: 'wrong',
  results: [{ aspect: 'pages', asked: 4, wrong: 1, notes: 0 }],
  findings: [
    { address: '/visit/', message: finding('status', { status: 500 }), weight: 'wrong' },
    { address: '/', message: finding('kept-long', { time: 604_800 }), weight: 'note' },
  ],
  since: 2,
};

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
});
afterEach(() => {
  document.body.innerHTML = '';
});
const text = () => document.body.textContent.replace(/\s+/g, ' ');
const button = (name: string) =>
  [...document.querySelectorAll('button')].find(({ textContent }) => textContent.trim() === name);

describe('the rehearsal', () => {
  it('says what visitors would meet, address by address, and how much was decided since', async () => {
    server.answers(rehearsalApi.get, { rehearsal, isPossible: true });
    showScreen(RehearsalPanel);
    await isShown(() => expect(text()).toContain('/visit/ answers 500'));
    expect(text()).toContain('/ may be kept for 7 days, so a new release is seen late');
    expect(text()).toContain('2 decisions made since');
    expect(button('Rehearse again')).toBeDefined();
  });

  it('is begun by who may, and is not there where the host has no names to give', async () => {
    server.answers(rehearsalApi.get, { rehearsal: null, isPossible: true });
    server.refuses(rehearsalApi.begin, 'host-unreachable', { detail: 'connection refused' });
    showScreen(RehearsalPanel);
    await isShown(() => expect(button('Rehearse on a temporary address')).toBeDefined());
    button('Rehearse on a temporary address')?.click();
    await isShown(() => expect(useNotices().notice?.text).toContain('does not answer (connection refused)'));

    document.body.innerHTML = '';
    server.answers(rehearsalApi.get, { rehearsal: null, isPossible: false });
    showScreen(RehearsalPanel);
    await isShown(() => expect(server.asked.filter(({ endpoint }) => endpoint === rehearsalApi.get)).toHaveLength(2));
    expect(text()).not.toContain('Rehears');
  });

  it('shows who looks on what was found, and no way to begin one', async () => {
    server.answers(rehearsalApi.get, { rehearsal, isPossible: true });
    showScreen(RehearsalPanel, { role: 'reviewer' });
    await isShown(() => expect(text()).toContain('answers 500'));
    expect(document.querySelectorAll('button')).toHaveLength(0);
  });
});
