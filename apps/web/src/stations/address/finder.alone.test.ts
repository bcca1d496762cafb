// @vitest-environment jsdom
/** Asking for names: what belongs to one question is not taken for what belongs to another. */
import { nameFound } from '@fastigium/contracts/messages/address';
import type { FoundName } from '@fastigium/contracts/api/address';
import { mount } from '@vue/test-utils';
import { h, nextTick, shallowRef, type FunctionalComponent } from 'vue';
import { beforeEach, expect, it, vi } from 'vitest';
import { addressKey, type Address } from './address.ts';
import { provideFinder, useFinder, type Finder } from './finder.ts';
import NameFinder from './NameFinder.vue';

const { call, problem } = vi.hoisted(() => ({ call: vi.fn(), problem: vi.fn() }));
vi.mock('../../api/client.ts', () => ({ call }));
vi.mock('../../stores/site.ts', () => ({ useSite: () => ({ id: 'site', overview: { hostName: 'tarn-house' } }) }));
vi.mock('../../stores/notices.ts', () => ({ useNotices: () => ({ problem }) }));
vi.stubGlobal(
  'ResizeObserver',
  class {
    observe() {}
    unobserve() {}
    disconnect() {}
  },
);

const found = (name: string, more: Partial<FoundName> = {}): FoundName => ({
  name,
  unicode: name,
  state: 'free',
  words: nameFound('free'),
  asked: false,
  alternative: false,
  score: { points: 90, reasons: [] },
  currency: 'USD',
  costs: [],
  costsWithPrivacy: [],
  ...more,
});

/** Questions that wait for their answer, by what was asked. */
const waiting = new Map<
  string,
  { answer: (names: FoundName[]) => Promise<void>; refuse: (error: Error) => Promise<void> }
>();
const settled = async () => {
  await new Promise((resolve) => setTimeout(resolve));
  await nextTick();
};

beforeEach(() => {
  waiting.clear();
  problem.mockClear();
  call.mockImplementation(
    (_: unknown, { query }: { query: { q: string } }) =>
      new Promise((resolve, reject) => {
        waiting.set(query.q, {
          answer: async (names) => {
            resolve({ siteWords: [], names });
            await settled();
          },
          refuse: async (error) => {
            reject(error);
            await settled();
          },
        });
      }),
  );
});

function stand() {
  let finder: Finder | undefined;
  const Inside: FunctionalComponent = () => {
    finder = useFinder();
    return h(NameFinder);
  };
  const Station = {
    setup() {
      provideFinder();
      return () => h(Inside);
    },
  };
  const address = { view: shallowRef({ domain: null }) } as unknown as Address;
  const wrapper = mount(Station, {
    global: {
      provide: { [addressKey as symbol]: address },
      stubs: { 'v-btn': { template: '<button><slot /></button>' } },
    },
    attachTo: document.body,
  });
  if (!finder) throw new Error('there is no finder');
  return {
    wrapper,
    finder,
    ask: async (words: string) => {
      await wrapper.find('input').setValue(words);
      await wrapper.find('form').trigger('submit');
    },
  };
}

it('looks at the site’s own name first, and chooses none by that', async () => {
  const { wrapper, finder } = stand();
  await waiting.get('tarn-house')?.answer([found('tarn-house.example')]);
  expect(finder.chosen.value).toBeUndefined();
  expect(wrapper.find('.found').attributes('inert')).toBeUndefined();
});

it('while another question is on its way nothing is looked at and nothing can be clicked', async () => {
  const { wrapper, finder, ask } = stand();
  await waiting
    .get('tarn-house')
    ?.answer([found('tarn-house.example'), found('tarnhouse.example', { alternative: true })]);
  finder.selected.value = 'tarnhouse.example';
  expect(finder.chosen.value?.name).toBe('tarnhouse.example');
  const before = wrapper.find('.ledger-list').element;
  await ask('tarnhouse');
  expect(finder.chosen.value).toBeUndefined();
  expect(wrapper.find('.found').attributes('inert')).toBeDefined();
  await waiting.get('tarnhouse')?.answer([found('tarnhouse.test'), found('tarnhouse.example')]);
  expect(finder.chosen.value?.name).toBe('tarnhouse.test');
  expect(wrapper.find('.found').attributes('inert')).toBeUndefined();
  expect(wrapper.find('.ledger-list').element, 'rows of the answer before are gone, not made over').not.toBe(before);
});

it('the name that was asked for whole is looked at before one that is free', async () => {
  const { finder, ask } = stand();
  await ask('tarnhouse.test');
  await waiting
    .get('tarnhouse.test')
    ?.answer([found('tarnhouse.example'), found('tarnhouse.test', { state: 'taken', asked: true })]);
  expect(finder.chosen.value?.name).toBe('tarnhouse.test');
});

it('an answer that comes after a later one is left', async () => {
  const { finder, ask } = stand();
  await ask('first');
  await ask('second');
  await waiting.get('second')?.answer([found('second.example')]);
  await waiting.get('first')?.answer([found('first.example')]);
  expect(finder.chosen.value?.name).toBe('second.example');
  expect(finder.searching.value).toBe(false);
});

it('a question that failed says so, and the list can be used again', async () => {
  const { wrapper, finder, ask } = stand();
  await waiting.get('tarn-house')?.answer([found('tarn-house.example')]);
  await ask('tarnhouse');
  await waiting.get('tarnhouse')?.refuse(new Error('no line'));
  expect(problem).toHaveBeenCalledOnce();
  expect(finder.names.value?.map(({ name }) => name)).toEqual(['tarn-house.example']);
  expect(wrapper.find('.found').attributes('inert')).toBeUndefined();
});
