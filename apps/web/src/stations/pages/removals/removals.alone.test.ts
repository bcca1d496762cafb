// @vitest-environment jsdom
/** Removed rows among those that stand, choosing and ordering removals, and what the panels offer. */
import { menuPart, puttingBack, stood } from '@fastigium/contracts/messages/removal';
import { menu, thing } from '@fastigium/contracts/messages/names';
import type { RemovedRow } from '@fastigium/contracts/api/draft';
import type { PutBackPreview, RemovalRow, RemovePreview } from '@fastigium/contracts/api/removals';
import fc from 'fast-check';
import { flushPromises, mount, type VueWrapper } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { createVuetify } from 'vuetify';
import { VBtn, VTextField } from 'vuetify/components';
import RemovePanel from '../../shared/RemovePanel.vue';
import { prepareBulkDecision, listBranches, filterConcerned } from '../../redirects/bulk.ts';
import { createPageRow } from '../../../testing/pageRow.ts';
import ForGoodPanel from './ForGoodPanel.vue';
import { putInPlace, isRemoved } from './inPlace.ts';
import { filterRemovals, sortRemovals } from './listing.ts';
import PutBackPanel from './PutBackPanel.vue';
import { sayKept, sayWhereItWas } from './removalWords.ts';

const { decide, call } = vi.hoisted(() => ({ decide: vi.fn(() => Promise.resolve(true)), call: vi.fn() }));
vi.mock('../../../stores/site.ts', () => ({
  useSite: () => ({
    id: 'site',
    versions: { draft: 0 },
    decide,
    refresh: () => Promise.resolve(),
    overview: { id: 'site', version: 7 },
  }),
}));
vi.mock('../../../stores/session.ts', () => ({
  useSession: () => ({ person: { id: 'me', name: 'Me', role: 'owner' }, mayEdit: true, isOwner: true }),
}));
vi.mock('../../../api/client.ts', () => ({ call }));

const person = { id: 'p', name: 'Ines Marlow', initials: 'IM' };
const away = (id: string, before: string | null): RemovedRow => ({
  ...createPageRow(id),
  removal: 1,
  nth: 1,
  under: '',
  before,
  by: person,
  at: '2026-11-01T00:00:00.000Z',
  keptUntil: null,
});
const removal = (of: number, more: Partial<RemovalRow> = {}): RemovalRow => ({
  of,
  kind: 'page',
  label: `Thing ${of}`,
  from: stood('at-top'),
  address: `/${of}/`,
  page: null,
  by: person,
  at: '2026-11-01T00:00:00.000Z',
  why: '',
  standsIn: null,
  size: 1,
  left: 1,
  visits: null,
  askedSince: null,
  keptUntil: null,
  held: null,
  ...more,
});

describe('removed rows', () => {
  it('stand before the row they name, in their own order, and at the end where they name none', () => {
    const rows = putInPlace(
      [createPageRow('a'), createPageRow('b')],
      [away('x', 'a'), away('y', 'b'), away('z', 'b'), away('last', null)],
    );
    expect(rows.map(({ id }) => id)).toEqual(['x', 'a', 'y', 'z', 'b', 'last']);
    expect(rows.filter(isRemoved)).toHaveLength(4);
  });

  it('come to every row once, and leave the others in their order (property)', () => {
    fc.assert(
      fc.property(fc.nat({ max: 8 }), fc.array(fc.nat({ max: 9 }), { maxLength: 8 }), (size, befores) => {
        const pages = Array.from({ length: size }, (_, n) => createPageRow(`p${n}`));
        // As the server gives them: in the tree's order.
        const removed = [...befores].sort((a, b) => a - b).map((at, n) => away(`r${n}`, at < size ? `p${at}` : null));
        const rows = putInPlace(pages, removed);
        expect(rows).toHaveLength(pages.length + removed.length);
        expect(rows.filter((row) => !isRemoved(row))).toEqual(pages);
        expect(rows.filter(isRemoved)).toEqual(removed);
      }),
    );
  });

  it('say where they were', () => {
    expect(
      sayWhereItWas({
        nth: 4,
        under: 'Visit',
        menus: ['Home', 'Hafan'].map((first) => menu('beginning-with', { menu: menu('main'), first })),
      }),
    ).toBe('was 4th under Visit, main menu');
    expect([1, 2, 3, 11, 22].map((nth) => sayWhereItWas({ nth, under: '', menus: [] }))).toEqual([
      'was 1st at the top',
      'was 2nd at the top',
      'was 3rd at the top',
      'was 11th at the top',
      'was 22nd at the top',
    ]);
  });
});

describe('the list of removals', () => {
  const rows = [
    removal(1, { label: 'Beta', visits: 3, keptUntil: '2026-12-02T00:00:00.000Z', why: 'asked for' }),
    removal(2, { label: 'alpha', by: { ...person, id: 'q', name: 'Tomos' }, keptUntil: null }),
    removal(3, { label: 'Gamma', kind: 'section', visits: 9, keptUntil: '2026-12-01T00:00:00.000Z' }),
  ];
  const order = (by: Parameters<typeof sortRemovals>[1]) => sortRemovals(rows, by).map(({ of }) => of);

  it('is ordered as asked, what is not known last', () => {
    expect([order('newest'), order('oldest'), order('name'), order('visits'), order('kept')]).toEqual([
      [3, 2, 1],
      [1, 2, 3],
      [2, 1, 3],
      [3, 1, 2],
      [3, 1, 2],
    ]);
  });

  it('is narrowed by words, person and kind', () => {
    const of = (choice: Partial<Parameters<typeof filterRemovals>[1]>) =>
      filterRemovals(rows, { search: '', person: '', kind: '', ...choice }).map((row) => row.of);
    expect([
      of({ search: 'ASKED' }),
      of({ search: 'tomos' }),
      of({ person: 'q' }),
      of({ kind: 'section' }),
      of({ search: 'alpha', kind: 'section' }),
    ]).toEqual([[1], [2], [2], [3], []]);
  });

  it('says until when each is kept', () => {
    expect([
      sayKept({ keptUntil: '2026-12-25T23:59:00.000Z', held: null }),
      sayKept({ keptUntil: null, held: null }),
      sayKept({ keptUntil: null, held: { reason: 'x', by: person } }),
    ]).toEqual(['until 25 Dec', 'without end', 'held by IM']);
  });
});

describe('a set of redirects', () => {
  const row = (from: string, origin: 'open' | 'decided') =>
    ({ from, origin, kind: 'page', suggestion: null }) as unknown as Parameters<typeof filterConcerned>[0][number];
  const rows = [row('/shop/a', 'decided'), row('/shop/b', 'decided'), row('/shop/c', 'open'), row('/x', 'decided')];

  it('is what is settled below a folder, and goes as one removal', () => {
    expect(listBranches(rows, 'removed')).toEqual([{ path: '/shop/', open: 2 }]);
    const some = filterConcerned(rows, { branch: '/shop/', answer: 'removed', least: 1 });
    expect(prepareBulkDecision(some, 'removed', undefined)).toMatchObject({
      kind: 'remove',
      thing: { kind: 'redirects', froms: ['/shop/a', '/shop/b'], patterns: [] },
    });
  });
});

const show = (component: unknown, props: object): VueWrapper =>
  mount(component as never, {
    props: props as never,
    global: { plugins: [createVuetify({ components: { VBtn, VTextField } })] },
  });

describe('the panels', () => {
  beforeEach(() => {
    setActivePinia(createPinia());
    decide.mockClear();
    call.mockReset();
  });
  const preview: RemovePreview = {
    label: 'Visit',
    goes: [{ label: 'Visit', address: '/visit/' }],
    goesInAll: 2,
    linkedFrom: [{ id: 'a', label: 'Learn', address: '/learn/' }],
    linkedFromInAll: 1,
    menus: [menuPart('items', { menu: menu('main'), items: [thing('named', { label: 'Visit' })] })],
    redirects: [],
    redirectsInAll: 0,
    visits: 40,
    roles: [],
    parent: { id: 'up', label: 'Plan', address: '/plan/' },
    hasAddress: true,
    inside: null,
  };
  const pages = [
    createPageRow('visit'),
    createPageRow('groups', { parent: 'visit', depth: 1 }),
    createPageRow('learn'),
  ];

  it('say what leads to a page, and lead its address to the page above unless somebody says otherwise', async () => {
    call.mockResolvedValue(preview);
    const panel = show(RemovePanel, { thing: { kind: 'node', node: 'visit', alone: false }, pages });
    await flushPromises();
    expect(panel.text()).toContain('1 other page links here');
    expect(panel.text()).toContain('40 visits');
    expect(panel.text()).toContain('With all 1 below it');
    await panel.find('form').trigger('submit');
    expect(decide).toHaveBeenLastCalledWith(
      expect.objectContaining({ kind: 'remove', standIn: { kind: 'parent' }, links: 'lead-on' }),
    );
    await panel
      .findAll('button')
      .find((button) => button.text() === 'Gone for good')
      ?.trigger('click');
    await panel.find('form').trigger('submit');
    // Nowhere to lead on to: links become words.
    expect(decide).toHaveBeenLastCalledWith(expect.objectContaining({ standIn: { kind: 'gone' }, links: 'unlinked' }));
  });

  it('say of a section which links and pictures go with it, and what nothing else leads to', async () => {
    call.mockResolvedValue({
      ...preview,
      hasAddress: false,
      parent: null,
      linkedFrom: [],
      linkedFromInAll: 0,
      menus: [],
      visits: null,
      inside: {
        words: 'By car, and where to leave it',
        links: [{ label: 'Parking', to: '/parking' }],
        linksInAll: 1,
        pictures: [
          { words: 'The gate', address: '/gate.png' },
          { words: 'The yard', address: null },
        ],
        picturesInAll: 2,
        lost: [{ id: 'parking', label: 'Parking', address: '/parking/' }],
      },
    } satisfies RemovePreview);
    const section = { kind: 'section', page: 'visit', section: { name: 'By car', nth: 0 } } as const;
    const panel = show(RemovePanel, { thing: section, pages });
    await flushPromises();
    expect(panel.text()).toContain('2 pictures no longer shown here');
    expect(panel.text()).toContain('1 link goes“Parking” to /parking');
    expect(panel.text()).toContain('No other page links to “Parking”/parking/');
    expect(panel.text()).not.toContain('Nothing else leads here');
    await panel.find('form').trigger('submit');
    expect(decide).toHaveBeenLastCalledWith(
      expect.objectContaining({ kind: 'remove', thing: section, standIn: { kind: 'none' }, links: 'kept' }),
    );
  });

  it('do not let the home page go before another one is chosen', async () => {
    call.mockResolvedValue({ ...preview, roles: ['home'] });
    const panel = show(RemovePanel, { thing: { kind: 'node', node: 'visit', alone: false }, pages });
    await flushPromises();
    expect(panel.text()).toContain('visitors need one');
    await panel.find('form').trigger('submit');
    expect(decide).not.toHaveBeenCalled();
  });

  it('ask what becomes of a taken address before anything is put back', async () => {
    const blocked: PutBackPreview = {
      lines: [{ what: 'back', message: puttingBack('page', { name: 'It comes back' }) }],
      taken: [{ label: 'Groups', address: '/groups/', by: 'Learn', isFile: false, free: '/groups-2/' }],
      parentOut: null,
      under: stood('at-top'),
    };
    call.mockResolvedValue(blocked);
    const panel = show(PutBackPanel, { things: [{ of: 3 }] });
    await flushPromises();
    expect(panel.text()).toContain('belongs to “Learn” by now');
    expect(panel.text()).not.toContain('It comes back');
    await panel.find('.v-btn').trigger('click');
    expect(decide).not.toHaveBeenCalled();
    await panel
      .findAll('button')
      .find((button) => button.text().startsWith('Give it back'))
      ?.trigger('click');
    await flushPromises();
    await panel.find('.v-btn').trigger('click');
    expect(decide).toHaveBeenLastCalledWith({
      kind: 'put-back',
      things: [{ of: 3 }],
      where: 'in-place',
      taken: 'swap',
    });
  });

  it('remove for good only what was typed, and nothing that is held', async () => {
    call.mockResolvedValue({ version: 8, words: 'done' });
    const panel = show(ForGoodPanel, { rows: [removal(1), removal(2)] });
    expect(panel.text()).toContain('who will be told');
    const button = () => panel.findAll('.v-btn').find((each) => each.text() === 'Remove for good');
    expect(button()?.attributes('disabled')).toBeDefined();
    await panel.find('input').setValue('2');
    expect(button()?.attributes('disabled')).toBeUndefined();
    await panel.find('form').trigger('submit');
    expect(call).toHaveBeenLastCalledWith(expect.anything(), {
      params: { site: 'site' },
      body: { version: 7, of: [1, 2], confirmed: '2' },
    });
    const held = show(ForGoodPanel, { rows: [removal(1, { held: { reason: 'Monday', by: person } })] });
    expect(held.text()).toContain('Ines Marlow holds “Thing 1”: Monday');
    expect(held.findAll('input')).toHaveLength(0);
  });
});
