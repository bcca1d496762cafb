/** Mounts a screen as the application does: its theme, its stores, a router, somebody signed in, a site that is open. */
import type { Session } from '@fastigium/contracts/api/session';
import { releasesApi } from '@fastigium/contracts/api/releases';
import { sitesApi, type SiteOverview } from '@fastigium/contracts/api/sites';
import type { Role } from '@fastigium/contracts/endpoint';
import { mount, type VueWrapper } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { vi } from 'vitest';
import { defineComponent, h, type Component } from 'vue';
import { createMemoryHistory, createRouter } from 'vue-router';
import { router as application } from '../app/router.ts';
import { createTheme } from '../app/theme.ts';
import { useSession } from '../stores/session.ts';
import { useSite } from '../stores/site.ts';
import type { FakeServer } from './fakeServer.ts';

export const SITE = '00000000-0000-4000-8000-000000000001';

const createSession = (role: Role): Session => ({
  person: { id: SITE, name: 'Ada Stone', initials: 'AS', email: 'ada@moor.example', role },
  csrfToken: 'token',
  needsOwner: false,
  demo: null,
  hasMail: false,
  second: null,
});

export const createOverview = (more: Partial<SiteOverview> = {}): SiteOverview => ({
  id: SITE,
  name: 'Moor',
  hostName: 'moor',
  hasHost: true,
  liveUrl: null,
  answersAt: null,
  pages: 4,
  files: 9,
  liveRelease: null,
  createdAt: '2026-11-29T00:00:00.000Z',
  version: 3,
  live: null,
  snags: { must: 0, should: 0, dismissed: 0, checking: false, metadata: 0 },
  notes: 0,
  oldAddresses: 0,
  oldAddressesWithRule: 0,
  redirects: 0,
  homeTitle: 'Welcome',
  basePath: '',
  address: null,
  removals: { all: 0, pages: 0, sweptSoon: 0, firstSweep: null },
  watch: { lost: 0, readAt: null, problem: null, alerts: [] },
  steps: { undo: null, redo: null },
  runningJobs: [],
  lastImport: null,
  ...more,
});

/** What every screen reads again after it has changed something. */
export function answerSite(server: FakeServer, overview: Partial<SiteOverview> = {}): void {
  server.answers(sitesApi.overview, createOverview(overview));
  server.answers(releasesApi.changes, {
    version: 3,
    sinceRelease: null,
    changes: [],
    sending: null,
    hostProblem: null,
    whole: { files: 9, bytes: 1 },
  });
}

interface Shown {
  readonly role?: Role;
  /** Otherwise than of somebody who is signed in. */
  readonly session?: Partial<Session>;
  readonly overview?: Partial<SiteOverview>;
  readonly props?: Record<string, unknown>;
  /** Screens within it that have tests of their own. */
  readonly without?: readonly string[];
}

/** jsdom has no layout, no media and no streams of events. */
function provideBrowserParts(): void {
  class Observer {
    observe() {}
    unobserve() {}
    disconnect() {}
  }
  vi.stubGlobal('ResizeObserver', Observer);
  vi.stubGlobal('IntersectionObserver', Observer);
  vi.stubGlobal(
    'EventSource',
    class extends EventTarget {
      close() {}
    },
  );
  Element.prototype.scrollTo = () => {};
  vi.stubGlobal('visualViewport', new EventTarget());
  vi.stubGlobal('matchMedia', () => ({ matches: false, addEventListener() {}, removeEventListener() {} }));
}

let last: VueWrapper | undefined;

/** What an earlier test or file showed goes, and asks for nothing any more. */
function takeDown(): void {
  const before = last;
  last = undefined;
  try {
    before?.unmount();
  } catch {
    // Tests clear the page when they end, and what is not there any more cannot be taken off it.
  }
}

export function showScreen(
  screen: Component,
  { role = 'owner', session = {}, overview = {}, props = {}, without = [] }: Shown = {},
): VueWrapper {
  provideBrowserParts();
  takeDown();
  document.body.innerHTML = '';
  const pinia = createPinia();
  setActivePinia(pinia);
  useSession().session = { ...createSession(role), ...session };
  useSite().overview = createOverview(overview);
  const anywhere = defineComponent({ render: () => h('div') });
  const router = createRouter({
    history: createMemoryHistory(),
    // The application's own addresses, with nothing at them, of whichever site.
    routes: [
      ...application
        .getRoutes()
        .flatMap(({ name, path }) =>
          name === undefined ? [] : [{ name, path: path.replace(/:site\b/, ':site?'), component: anywhere }],
        ),
      { path: '/:rest(.*)*', name: 'anywhere', component: anywhere },
    ],
  });
  last = mount(screen, {
    props,
    attachTo: document.body,
    global: { plugins: [pinia, router, createTheme('')], stubs: [...without] },
  });
  return last;
}

/** Until what was asked for is shown. */
export async function isShown(expectation: () => void): Promise<void> {
  await vi.waitFor(expectation, { timeout: 5000, interval: 5 });
}

/** Room for lists to show their first rows in, since without a layout they show none. */
export function giveRoom(): void {
  for (const [side, px] of [
    ['clientHeight', 400],
    ['clientWidth', 800],
  ] as const)
    vi.spyOn(Element.prototype, side, 'get').mockReturnValue(px);
}
