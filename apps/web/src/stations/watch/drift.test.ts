// @vitest-environment jsdom
/** Whether the live host gives what the release says, and the way to put it right. */
import { watchApi, type Drift } from '@fastigium/contracts/api/watch';
import { finding } from '@fastigium/core/inspection';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { useNotices } from '../../stores/notices.ts';
import { FakeServer } from '../../testing/fakeServer.ts';
import { isShown, showScreen } from '../../testing/screen.ts';
import DriftPart from './DriftPart.vue';

const now = new Date('2026-11-29T12:00:00.000Z');
const drift: Drift = {
  checkedAt: '2026-11-29T11:00:00.000Z',
  since: '2026-11-29T10:00:00.000Z',
  asked: 30,
  findings: [{ address: '/visit/', message: finding('differs-in-size', { size: 32, published: 136 }) }],
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

describe('drift', () => {
  it.each([
    [null, 'Not held against it yet'],
    [{ ...drift, since: null, findings: [] }, 'Gives what was published'],
    [drift, 'shows something else than was published: 32 bytes instead of 136'],
  ])('is told as it is (%#)', (found, expected) => {
    showScreen(DriftPart, { props: { drift: found, now } });
    expect(text()).toContain(expected);
    expect(button('Put it right') !== undefined).toBe((found?.findings.length ?? 0) > 0);
  });

  it('is asked for anew, and says what came of it', async () => {
    server.answers(watchApi.checkDrift, { asked: 30, findings: 1 } as never);
    showScreen(DriftPart, { props: { drift: null, now } });
    button('Ask now')?.click();
    await isShown(() => expect(useNotices().notice?.text).toBe('1 address otherwise than published.'));
  });

  it('is put right by who may; why not is said in words', async () => {
    server.refuses(watchApi.putRight, 'nothing-drifted');
    showScreen(DriftPart, { props: { drift, now } });
    button('Put it right')?.click();
    await isShown(() => expect(useNotices().notice?.text).toContain('There is nothing to put right'));
    document.body.innerHTML = '';
    showScreen(DriftPart, { role: 'reviewer', props: { drift, now } });
    expect(document.querySelectorAll('button')).toHaveLength(0);
  });
});
