// @vitest-environment jsdom
/** One rule for many old addresses: written, tried before it holds, put in another order, proposed. */
import { draftApi } from '@fastigium/contracts/api/draft';
import { redirectsApi, type PatternPreview, type PatternRow } from '@fastigium/contracts/api/redirects';
import { decision } from '@fastigium/contracts/messages/decision';
import { reason } from '@fastigium/contracts/messages/reason';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { FakeServer } from '../../testing/fakeServer.ts';
import { findField, findButton, readPageText, press, write } from '../../testing/page.ts';
import { answerSite, isShown, showScreen, SITE } from '../../testing/screen.ts';
import PatternsBench from './PatternsBench.vue';

const pattern = (last: number, text: string, more: Partial<PatternRow> = {}): PatternRow => ({
  id: SITE.slice(0, -1) + last,
  text,
  status: 301,
  target: '/journal/:slug/',
  ignoreCase: false,
  dropsQuery: false,
  catches: 40,
  visits: 900,
  hidden: 0,
  note: null,
  until: null,
  problem: null,
  ...more,
});
const news = pattern(2, '/news/:slug.html', { hidden: 3, note: 'from the first shop' });
const gone = pattern(3, '/cgi/*', { status: 410, target: null, visits: 0 });
const fine: PatternPreview = {
  problem: null,
  caught: 2,
  hidden: 0,
  catches: [
    {
      from: '/press/a.html',
      visits: 12,
      before: { status: 404, to: null },
      after: { status: 301, to: '/journal/a/' },
      lands: true,
    },
  ],
};

let server: FakeServer;
beforeEach(() => {
  server = new FakeServer();
  answerSite(server);
  server.answers(redirectsApi.patterns, [news, gone]);
  server.answers(redirectsApi.proposals, []);
  server.answers(redirectsApi.previewPattern, fine);
  server.answers(draftApi.decide, { version: 4, message: decision('patterns-ordered'), made: null });
});
afterEach(() => {
  document.body.innerHTML = '';
});
const decided = () => server.sentTo(draftApi.decide).map((sent) => sent.decision);
const show = async (role: 'owner' | 'reviewer' = 'owner') => {
  showScreen(PatternsBench, { role, props: { tick: 0 } });
  await isShown(() => expect(readPageText()).toContain('/news/:slug.html'));
};

describe('patterns', () => {
  it('say what each catches, what is answered before it, and why it is there', async () => {
    await show();
    expect(readPageText()).toContain('catches 40, 900 visits, 3 answered before it');
    expect(readPageText()).toContain('from the first shop');
    expect(readPageText()).toContain('gone (410)');
  });

  it('are kept once it is seen what they would catch', async () => {
    await show();
    await write('Old addresses', '/press/:slug.html');
    await write('Where they land', '/journal/:slug/');
    await isShown(() => expect(readPageText()).toContain('/press/a.html'));
    expect(server.sentTo(redirectsApi.previewPattern).at(-1)).toMatchObject({
      text: '/press/:slug.html',
      target: '/journal/:slug/',
    });
    await write('Until', '2027-03-31');
    document.querySelector('form')?.requestSubmit();
    await isShown(() =>
      expect(decided()).toEqual([
        {
          kind: 'pattern',
          id: null,
          text: '/press/:slug.html',
          status: 301,
          target: '/journal/:slug/',
          ignoreCase: false,
          dropsQuery: false,
          until: '2027-03-31',
        },
      ]),
    );
    await isShown(() => expect(findField('Old addresses').value).toBe(''));
  });

  it('are not kept while something is wrong with them, and what it is is said', async () => {
    server.answers(redirectsApi.previewPattern, { ...fine, problem: reason('whole-path'), catches: [], caught: 0 });
    await show();
    await write('Old addresses', 'press');
    await write('Where they land', '/journal/');
    await isShown(() => expect(document.querySelector('[role=alert]')).not.toBeNull());
    document.querySelector('form')?.requestSubmit();
    await isShown(() => expect(server.sentTo(redirectsApi.previewPattern).length).toBeGreaterThan(0));
    expect(decided()).toEqual([]);
  });

  it('change places by a press, the first and the last within their bounds', async () => {
    await show();
    expect(findButton('Try /news/:slug.html earlier')?.disabled).toBe(true);
    expect(findButton('Try /cgi/* later')?.disabled).toBe(true);
    await press('Try /cgi/* earlier');
    await isShown(() => expect(decided()).toEqual([{ kind: 'patterns-ordered', ids: [gone.id, news.id] }]));
  });

  it('are shown as they are when one is chosen, and can be taken away', async () => {
    await show();
    document.querySelectorAll<HTMLElement>('.pick')[0]?.click();
    await isShown(() => expect(findField('Old addresses').value).toBe('/news/:slug.html'));
    expect(findField('Note').value).toBe('from the first shop');
    await press('Take away');
    await isShown(() =>
      expect(decided()[0]).toMatchObject({
        kind: 'remove',
        thing: { kind: 'redirects', froms: [], patterns: [news.id] },
      }),
    );
  });

  it('are only looked at by who changes nothing', async () => {
    await show('reviewer');
    expect(findButton('Try /cgi/* earlier')).toBeUndefined();
    expect(document.querySelector('input')).toBeNull();
  });

  it('are proposed in place of many, with what becomes of addresses nobody has seen', async () => {
    server.answers(redirectsApi.proposals, [
      {
        text: '/shop/:id.php',
        status: 301,
        target: '/goods/:id/',
        replaces: ['/shop/1.php', '/shop/2.php', '/shop/3.php'],
        unknown: { address: '/shop/99.php', to: '/goods/99/', isThere: false },
      },
    ]);
    await show();
    await isShown(() => expect(readPageText()).toContain('Replaces 3 redirects'));
    expect(readPageText()).toContain('/shop/99.php, would be sent to where nothing is');
    await press('Take it');
    await isShown(() =>
      expect(decided()).toEqual([
        {
          kind: 'redirects',
          settle: [],
          remove: ['/shop/1.php', '/shop/2.php', '/shop/3.php'],
          patterns: [
            { text: '/shop/:id.php', status: 301, target: '/goods/:id/', ignoreCase: false, dropsQuery: false },
          ],
        },
      ]),
    );
  });
});
