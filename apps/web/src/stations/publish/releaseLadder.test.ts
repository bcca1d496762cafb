// @vitest-environment jsdom
/** The releases there are: what each was, the way back, and which are kept. */
import { releasesApi, type Release } from '@fastigium/contracts/api/releases';
import { beforeEach, describe, expect, it } from 'vitest';
import { FakeServer } from '../../testing/fakeServer.ts';
import { findButton, readPageText, press, send, write } from '../../testing/page.ts';
import { createRelease } from '../../testing/rows.ts';
import { answerSite, isShown, showScreen } from '../../testing/screen.ts';
import ReleaseLadder from './ReleaseLadder.vue';

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  answerSite(server);
  server.answers(releasesApi.keeping, { count: 5 });
});
const show = (releases: readonly Release[], more: Parameters<typeof showScreen>[1] = {}) =>
  showScreen(ReleaseLadder, { ...more, props: { releases, canGoBack: true, modelValue: undefined, ...more.props } });
const rows = () =>
  [...document.querySelectorAll('ol.ladder > li')].map(({ textContent }) => textContent.replace(/\s+/g, ' ').trim());

describe('the ladder of releases', () => {
  it('says of each what became of it, what was sent, and whose it was', async () => {
    show([
      createRelease(6, { state: 'sending' }),
      createRelease(5, {
        state: 'failed',
        error: { code: 'host-unreachable', details: { detail: 'connection refused' } },
      }),
      createRelease(4, { state: 'live', rollbackOf: 2, filesSent: 0, verdict: 'wrong' }),
      createRelease(3, { note: 'Opening night', isPinned: true }),
      createRelease(2, { state: 'let-go' }),
      createRelease(1, { state: 'cancelled' }),
    ]);
    await isShown(() => expect(readPageText()).toContain('The last 5 are kept'));
    expect(rows()[0]).toContain('on its way');
    expect(rows()[1]).toMatch(/failed.*does not answer \(connection refused\)/);
    expect(rows()[2]).toMatch(/live since .*, back to release 2, nothing sent.*Ada Stone.*found otherwise/);
    expect(rows()[3]).toMatch(/2 files, 4\.1 kB sent.*Opening night, kept for good/);
    expect(rows()[4]).toContain('not kept any more');
    expect(rows()[5]).toContain('cancelled');
  });

  it('goes back to what was live before, and to nothing else', async () => {
    const ladder = show([createRelease(3, { state: 'live' }), createRelease(2), createRelease(1, { state: 'let-go' })]);
    const ways = [...document.querySelectorAll<HTMLButtonElement>('button')].filter(
      ({ textContent }) => textContent.trim() === 'Go back to it',
    );
    expect(ways).toHaveLength(1);
    ways[0]?.click();
    expect(ladder.emitted('back')).toEqual([[expect.objectContaining({ number: 2 })]]);
    await press('Compare release 3');
    expect(ladder.emitted('compare')).toEqual([[3]]);
  });

  it('shows no way back while there is none, and none to whoever only looks', async () => {
    show([createRelease(2, { state: 'live' }), createRelease(1)], { props: { canGoBack: false } });
    expect(findButton('Go back to it')?.disabled).toBe(true);
    show([createRelease(2, { state: 'live' }), createRelease(1)], { role: 'reviewer' });
    await isShown(() => expect(readPageText()).toContain('The last 5 are kept'));
    expect(readPageText()).not.toMatch(/Keep for good|Take along|Change/);
  });

  it('keeps one for good, and lets go of that again', async () => {
    show([createRelease(2, { state: 'live' }), createRelease(1)]);
    server.answers(releasesApi.pin, { done: true });
    await press('Keep release 1 for good');
    await isShown(() => expect(server.sentTo(releasesApi.pin)).toEqual([{ isPinned: true }]));
    show([createRelease(2, { state: 'live' }), createRelease(1, { isPinned: true })]);
    await press('Keep release 1 no longer than others');
    await isShown(() => expect(server.sentTo(releasesApi.pin)).toEqual([{ isPinned: true }, { isPinned: false }]));
  });

  it('lets owners say how many are kept', async () => {
    show([createRelease(1, { state: 'live' })]);
    await isShown(() => expect(findButton('Change')).toBeDefined());
    await press('Change');
    await write('Releases that are kept', '3');
    server.answers(releasesApi.keep, { done: true });
    await send();
    await isShown(() => expect(server.sentTo(releasesApi.keep)).toEqual([{ count: 3 }]));
  });
});
