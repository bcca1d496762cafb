// @vitest-environment jsdom
/** The proof read before and after a release: what was asked, what is lost, and the way back to settling. Invented. */
import { redirectProofApi, type ProofRow, type RedirectProof } from '@fastigium/contracts/api/redirectProof';
import { liveWay } from '@fastigium/core/redirects';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FakeServer } from '../../../testing/fakeServer.ts';
import { chooseOption, findButton, press, readPageText, write } from '../../../testing/page.ts';
import { answerSite, giveRoom, isShown, showScreen, SITE } from '../../../testing/screen.ts';
import ProofView from './ProofView.vue';

const way = (end: ProofRow['draft']['end'], final: string | null, ...hops: [string, number][]): ProofRow['draft'] => ({
  end,
  final,
  hops: hops.map(([address, status]) => ({ address, status })),
});
const right = way('page', '/visit/', ['/besuch.html', 301], ['/visit/', 200]);
const ROWS: readonly ProofRow[] = [
  { from: '/besuch.html', visits: 40, draft: right, title: 'Visit', live: { ...right, problem: null } },
  {
    from: '/weg.html',
    visits: null,
    draft: way('page', '/visit/', ['/weg.html', 301], ['/visit', 308], ['/visit/', 200]),
    title: 'Visit',
    live: {
      ...way('missing', '/weg.html', ['/weg.html', 404]),
      problem: liveWay('status', { address: '/weg.html', found: 404, published: 301 }),
    },
  },
  {
    from: '/fort.html',
    visits: 3,
    draft: way('missing', '/fort.html', ['/fort.html', 404]),
    title: null,
    live: { ...way('missing', '/fort.html', ['/fort.html', 404]), problem: null },
  },
];
const asked = {
  release: 4,
  origin: 'https://moor.example',
  at: '2026-11-29T10:00:00.000Z',
  by: { id: SITE, name: 'Ada Stone', initials: 'AS' },
  isCurrent: true,
};

let server: FakeServer;
let proof: RedirectProof;
beforeEach(() => {
  giveRoom();
  proof = { version: 3, live: asked, isLive: true, rows: [...ROWS] };
  server = new FakeServer();
  answerSite(server);
  server.answers(redirectProofApi.get, () => proof);
  server.answers(redirectProofApi.ask, { job: SITE });
});
afterEach(() => {
  document.body.innerHTML = '';
  vi.restoreAllMocks();
});

const show = (role: 'owner' | 'reviewer' = 'owner') => showScreen(ProofView, { role, without: ['ProofChart'] });
const options = () => [...document.querySelectorAll<HTMLElement>('[role="option"]')];
const listed = () => options().map((each) => each.textContent.replace(/\s+/g, ' ').trim());

describe('the proof of old addresses', () => {
  it('begins with what the live host answered, and says who asked it and when', async () => {
    show();
    await isShown(() => expect(listed()).toHaveLength(3));
    expect(readPageText()).toContain('by Ada Stone');
    expect(readPageText()).toContain('1 address answers otherwise than published.');
    expect(listed()[1]).toContain('404');
  });

  it('says that another release has gone live since', async () => {
    proof = { ...proof, live: { ...asked, isCurrent: false } };
    show();
    await isShown(() => expect(readPageText()).toContain('another release has gone live since'));
  });

  it.each([
    ['Otherwise than published 1', ['/weg.html']],
    ['Lost 2', ['/weg.html', '/fort.html']],
  ])('shows under “%s” what is so of the live host', async (name, expected) => {
    show();
    await isShown(() => expect(listed()).toHaveLength(3));
    await chooseOption(name);
    await isShown(() =>
      expect(listed().map((each) => each.split(' ')[0]?.match(/^\/\w+\.html/)?.[0])).toEqual(expected),
    );
  });

  it.each([
    ['Lost 1', ['/fort.html']],
    ['Several steps 1', ['/weg.html']],
  ])('shows under “%s” what is so of the draft', async (name, expected) => {
    show();
    await isShown(() => expect(listed()).toHaveLength(3));
    await chooseOption('Draft');
    await isShown(() => expect(readPageText()).not.toContain('Otherwise than published'));
    await chooseOption(name);
    await isShown(() => expect(listed().map((each) => /^\/\w+\.html/.exec(each)?.[0])).toEqual(expected));
  });

  it('finds a row by where it ends', async () => {
    show();
    await isShown(() => expect(listed()).toHaveLength(3));
    await write('Search the proof', '/visit/');
    await isShown(() => expect(listed()).toHaveLength(1));
  });

  it('tells each step of the chosen one, and leads to settling it otherwise', async () => {
    const view = show();
    await isShown(() => expect(listed()).toHaveLength(3));
    options()[2]?.click();
    await isShown(() => expect(readPageText()).toContain('Old address, 3 visits'));
    await press('Settle it otherwiseEnter');
    expect(view.emitted('settle')).toEqual([['/fort.html']]);
  });

  it('asks the live host once more', async () => {
    show();
    await isShown(() => expect(findButton('Ask the live host againV')?.disabled).toBe(false));
    await press('Ask the live host againV');
    await isShown(() =>
      expect(server.asked.filter(({ endpoint }) => endpoint === redirectProofApi.ask)).toHaveLength(1),
    );
  });

  it('cannot ask what is not live, and says what is followed instead', async () => {
    proof = { version: 3, live: null, isLive: false, rows: ROWS.map((each) => ({ ...each, live: null })) };
    show();
    await isShown(() => expect(readPageText()).toContain('Nothing is live yet.'));
    expect(findButton('Ask the live hostV')?.disabled).toBe(true);
  });

  it('says that there is nothing to prove where no old address is known', async () => {
    proof = { version: 3, live: null, isLive: false, rows: [] };
    show();
    await isShown(() => expect(readPageText()).toContain('No old address is known yet, so there is nothing to prove.'));
  });

  it('is kept as a page and as a table by whoever may read it, who asks nobody', async () => {
    show('reviewer');
    await isShown(() => expect(listed()).toHaveLength(3));
    const links = [...document.querySelectorAll('a[download]')].map((each) => each.getAttribute('href'));
    expect(links).toEqual([`/api/sites/${SITE}/redirects/proof.html`, `/api/sites/${SITE}/redirects/proof.csv`]);
    expect(findButton('Ask the live host againV')).toBeUndefined();
  });
});
