// @vitest-environment jsdom
/** The day of the move as somebody sees it who is in the middle of it. Times are invented. */
import { moveApi, type Move, type MoveStepView } from '@fastigium/contracts/api/move';
import { standInsApi } from '@fastigium/contracts/api/standIns';
import { measured } from '@fastigium/core/reach';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { useNotices } from '../../stores/notices.ts';
import { useWorld } from '../../stores/world.ts';
import { FakeServer } from '../../testing/fakeServer.ts';
import { findField, findButton, readPageText, press, send, write } from '../../testing/page.ts';
import { isShown, showScreen } from '../../testing/screen.ts';
import MoveView from './MoveView.vue';

const step = (name: MoveStepView['step'], state: MoveStepView['state'], more: Partial<MoveStepView> = {}) => ({
  step: name,
  state,
  measured: measured('no-answer'),
  from: null,
  by: null,
  ...more,
});
const moveOf = (more: Partial<Move> = {}): Move => ({
  now: '2026-11-30T12:00:00.000Z',
  simulated: false,
  changeAt: null,
  steps: [
    step('snags', 'done', { measured: measured('nothing-to-fix') }),
    step('published', 'late', { measured: measured('not-published'), by: '2026-11-29T12:00:00.000Z' }),
    step('records', 'waits', { from: '2026-12-02T12:00:00.000Z' }),
    step('ttl-raised', 'unneeded'),
  ],
  ...more,
});

let server: FakeServer;
beforeEach(() => {
  vi.useFakeTimers({ now: new Date('2026-11-30T12:00:00.000Z'), toFake: ['Date'] });
  server = new FakeServer();
  server.answers(moveApi.get, moveOf());
});
afterEach(() => {
  vi.useRealTimers();
  document.body.innerHTML = '';
});
const current = () => document.querySelector('[aria-current=step]')?.textContent.replace(/\s+/g, ' ');

describe('the day of the move', () => {
  it('counts what is left, and leads to the step that is late before all others', async () => {
    showScreen(MoveView);
    await isShown(() => expect(readPageText()).toContain('2 steps to go'));
    expect(current()).toContain('The site is live at the host');
    expect(current()).toContain('was due');
    expect(current()).toContain('Work on it');
    expect(document.querySelectorAll('[aria-current=step]')).toHaveLength(1);
    expect(readPageText()).toContain('not needed here');
  });

  it('leads to the first that waits where none is late', async () => {
    server.answers(
      moveApi.get,
      moveOf({ steps: [step('snags', 'done'), step('domain', 'waits'), step('records', 'waits')] }),
    );
    showScreen(MoveView);
    await isShown(() => expect(current()).toContain('The domain is known here'));
  });

  it('says when everything was measured', async () => {
    server.answers(moveApi.get, moveOf({ steps: [step('snags', 'done'), step('ttl-raised', 'unneeded')] }));
    showScreen(MoveView);
    await isShown(() => expect(readPageText()).toContain('everything was measured and is as it should be'));
    expect(current()).toBeUndefined();
  });

  it('takes a time, proposes the evening after next, and forgets it again', async () => {
    server.answers(moveApi.plan, moveOf({ changeAt: '2026-12-04T18:30:00.000Z' }));
    showScreen(MoveView);
    await isShown(() => expect(findField('Day').value).toBe('2026-12-02'));
    expect(findField('Time').value).toBe('18:00');
    expect(findButton('No time yet')).toBeUndefined();
    await write('Day', '2026-12-04');
    await write('Time', '18:30');
    await send();
    await isShown(() => expect(readPageText()).toContain('Visitors move over'));
    expect(server.sentTo(moveApi.plan)).toEqual([{ changeAt: new Date('2026-12-04T18:30').toISOString() }]);
    await press('No time yet');
    await isShown(() => expect(server.sentTo(moveApi.plan)).toHaveLength(2));
    expect(server.sentTo(moveApi.plan)[1]).toEqual({ changeAt: null });
  });

  it('says why a time could not be kept, and keeps what was chosen', async () => {
    server.refuses(moveApi.plan, 'database-away');
    showScreen(MoveView);
    await isShown(() => expect(findField('Day').value).toBe('2026-12-02'));
    await write('Day', '2026-12-09');
    await send();
    await isShown(() => expect(useNotices().notice?.kind).toBe('problem'));
    expect(findField('Day').value).toBe('2026-12-09');
  });

  it('lets nobody set a time who only looks on', async () => {
    showScreen(MoveView, { role: 'reviewer' });
    await isShown(() => expect(readPageText()).toContain('2 steps to go'));
    expect(document.querySelector('form')).toBeNull();
  });

  it('lets time run on where the world is simulated', async () => {
    server.answers(moveApi.get, moveOf({ simulated: true }));
    server.answers(standInsApi.clock, { now: '2026-11-30T12:00:00.000Z', aheadMs: 0 });
    server.answers(standInsApi.runOn, { now: '2026-11-30T18:00:00.000Z', aheadMs: 21_600_000 });
    showScreen(MoveView);
    await useWorld().read();
    await isShown(() => expect(readPageText()).toContain('The world outside is simulated'));
    await press('6 hours on');
    await isShown(() => expect(readPageText()).toContain('6 h ahead'));
    expect(server.sentTo(standInsApi.runOn)).toEqual([{ byMs: 21_600_000 }]);
    expect(readPageText()).toContain('2 steps to go');
  });
});
