// @vitest-environment jsdom
/** What the bench of Publish says of the next release, while it is not known yet what differs and afterwards. */
import { setTimeApi } from '@fastigium/contracts/api/setTime';
import { change } from '@fastigium/core/report';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { useSite } from '../../stores/site.ts';
import { FakeServer } from '../../testing/fakeServer.ts';
import { answerSite, isShown, showScreen } from '../../testing/screen.ts';
import ReleaseBench from './ReleaseBench.vue';

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  answerSite(server);
  server.answers(setTimeApi.get, { set: null });
});
afterEach(() => {
  document.body.innerHTML = '';
});
const text = () => document.body.textContent.replace(/\s+/g, ' ');
const publish = () =>
  [...document.querySelectorAll('button')].find(({ textContent }) => textContent.includes('Publish release'));
const show = () =>
  showScreen(ReleaseBench, {
    props: { releases: [] },
    without: [
      'InspectionPanel',
      'ReleaseLadder',
      'SetTimePanel',
      'RehearsalPanel',
      'TellOthers',
      'VisitorsPanel',
      'RouterLink',
    ],
  });
const known = (changes: number) => {
  useSite().changes = {
    version: 3,
    sinceRelease: null,
    changes: Array.from({ length: changes }, (_, n) => ({
      key: `file:${n}`,
      group: 'pages',
      what: 'changed',
      subject: '/',
      message: change('page-source-only'),
    })),
    sending: null,
    hostProblem: null,
    whole: { files: 9, bytes: 1 },
  };
};

it('says that it does not know yet, and not that there is nothing', async () => {
  show();
  expect(text()).toContain('Reckoning what differs');
  expect(text()).not.toContain('Nothing to publish');
  expect(publish()?.disabled).toBe(true);
  known(0);
  await isShown(() => expect(text()).toContain('Nothing to publish'));
  known(2);
  await isShown(() => expect(publish()?.disabled).toBe(false));
  expect(text()).not.toContain('Nothing to publish');
});
