// @vitest-environment jsdom
/** Components at the keyboard. */
import { progressStep } from '@fastigium/contracts/messages/progress';
import { mount } from '@vue/test-utils';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import { h } from 'vue';
import { createPinia } from 'pinia';
import PagePicker from '../stations/shared/PagePicker.vue';
import { createPageRow } from '../testing/pageRow.ts';
import JobProgress from './JobProgress.vue';
import LedgerList from './LedgerList.vue';
import SegmentedChoice from './SegmentedChoice.vue';

beforeAll(() => {
  // jsdom lays nothing out: rows need a height to be there.
  vi.spyOn(HTMLElement.prototype, 'offsetHeight', 'get').mockReturnValue(400);
  vi.spyOn(HTMLElement.prototype, 'offsetWidth', 'get').mockReturnValue(600);
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe() {}
      unobserve() {}
      disconnect() {}
    },
  );
  Element.prototype.scrollTo = () => {};
});

describe('long work', () => {
  const job = {
    id: 'j',
    site: 's',
    kind: 'publish' as const,
    state: 'waiting' as const,
    progress: { step: progressStep('sending'), done: 1, total: 4, unit: 'files' as const },
    error: null,
    createdAt: '2026-11-29T00:00:00.000Z',
    endedAt: null,
  };
  const shown = (retry: unknown) =>
    mount(JobProgress as never, {
      props: { job: { ...job, retry }, canCancel: true } as never,
      global: { stubs: { 'v-progress-linear': { template: '<i class="bar" />' } } },
    });

  it('that waits to try again says why and when, can be cancelled, and shows nothing that moves', () => {
    const at = new Date(Date.now() + 20_400).toISOString();
    const wrapper = shown({
      tries: 3,
      at,
      error: { code: 'host-unreachable', details: { detail: 'connection refused' } },
    });
    expect(wrapper.text()).toContain('does not answer (connection refused)');
    expect(wrapper.text()).toMatch(/Tried 3 times; it is tried again by itself in (20|21) s\./);
    expect(wrapper.text()).not.toContain('Sending');
    expect(wrapper.find('.bar').exists()).toBe(false);
    expect(wrapper.find('button').text()).toContain('Cancel');
  });

  it('says how far it is otherwise', () => {
    const wrapper = shown(null);
    expect(wrapper.text()).toContain('1 of 4 files');
    expect(wrapper.find('.bar').exists()).toBe(true);
  });
});

describe('a ledger', () => {
  const items = ['heading', 'a', 'b', 'c', 'heading 2', 'd'];
  const open = (modelValue: string | undefined) =>
    mount(LedgerList as never, {
      props: {
        items,
        keyOf: (item: string) => item,
        label: 'Letters',
        rowHeight: 40,
        modelValue,
        isHeading: (item: string) => item.startsWith('heading'),
      } as never,
      slots: { default: ({ item }: { item: string }) => h('span', item) },
    });

  it.each([
    ['j', 'a', 'b'],
    ['ArrowDown', 'a', 'b'],
    ['k', 'b', 'a'],
    ['ArrowDown', 'c', 'd'],
    ['ArrowUp', 'd', 'c'],
    ['Home', 'c', 'a'],
    ['End', 'a', 'd'],
    ['ArrowDown', undefined, 'a'],
    ['ArrowUp', undefined, 'd'],
  ])('%s from %s goes to %s', async (key, from, to) => {
    const ledger = open(from);
    await ledger.trigger('keydown', { key });
    expect(ledger.emitted('update:modelValue')).toEqual([[to]]);
  });

  it('stays at its ends', async () => {
    const ledger = open('d');
    await ledger.trigger('keydown', { key: 'j' });
    expect(ledger.emitted('update:modelValue')).toBeUndefined();
  });

  it('decides with Enter and hands on other keys with the row', async () => {
    const ledger = open('b');
    await ledger.trigger('keydown', { key: 'Enter' });
    await ledger.trigger('keydown', { key: 'x' });
    await ledger.trigger('keydown', { key: 'j', ctrlKey: true });
    expect(ledger.emitted('enter')).toEqual([['b']]);
    expect(ledger.emitted('key')?.map(([, item]) => item)).toEqual(['b']);
  });

  it('holds only the rows in view, however many there are', () => {
    const many = Array.from({ length: 50_000 }, (_, n) => `row ${n}`);
    const ledger = mount(LedgerList as never, {
      props: {
        items: many,
        keyOf: (item: string) => item,
        label: 'Many',
        rowHeight: 40,
        modelValue: undefined,
      } as never,
      slots: { default: ({ item }: { item: string }) => h('span', item) },
    });
    expect(ledger.findAll('[role=option]').length).toBeLessThan(60);
    expect(ledger.find('.rows').attributes('style')).toContain(`${50_000 * 40}px`);
  });
});

describe('a choice', () => {
  it('moves round with the arrows', async () => {
    const choice = mount(SegmentedChoice as never, {
      props: {
        'onUpdate:modelValue': (modelValue: number) => choice.setProps({ modelValue } as never),
        modelValue: 301,
        label: 'Status',
        options: [301, 302, 410].map((value) => ({ value, label: String(value) })),
      } as never,
    });
    await choice.trigger('keydown', { key: 'ArrowLeft' });
    expect(choice.emitted('update:modelValue')).toEqual([[410]]);
    expect(choice.findAll('[role=radio]').map((button) => button.attributes('tabindex'))).toEqual(['-1', '-1', '0']);
    // One that is chosen already may be a default that would change; clicked, it is meant.
    await choice.findAll('[role=radio]')[2]?.trigger('click');
    expect(choice.emitted('update:modelValue')).toEqual([[410], [410]]);
  });
});

describe('picking a page', () => {
  const page = (id: string, title: string, address: string) => createPageRow(id, { title, address, label: title });
  const pages = [
    page('1', 'Opening times', '/visit/opening-times/'),
    page('2', 'The solar terrace', '/observatory/solar-terrace/'),
    page('3', 'Opening night', '/journal/night/'),
  ];
  const open = (modelValue?: object, offers?: string[]) =>
    mount(PagePicker as never, {
      props: { pages, disabled: false, modelValue, ...(offers ? { offers } : {}) } as never,
      global: { plugins: [createPinia()] },
    });
  const type = async (picker: ReturnType<typeof open>, text: string, ...keys: string[]) => {
    await picker.find('input').trigger('focus');
    await picker.find('input').setValue(text);
    for (const key of keys) await picker.find('input').trigger('keydown', { key });
    return picker.emitted('update:modelValue')?.at(-1);
  };

  it('takes the first found with Enter, and the second after one step down', async () => {
    expect(await type(open(), 'opening', 'Enter')).toEqual([{ kind: 'page', page: '1' }]);
    expect(await type(open(), 'opening', 'ArrowDown', 'Enter')).toEqual([{ kind: 'page', page: '3' }]);
  });

  it('knows a page by its address, and takes any other address as it is written, when it is picked', async () => {
    expect(await type(open(), '/journal/night/', 'Enter')).toEqual([{ kind: 'page', page: '3' }]);
    expect(await type(open(), '/elsewhere#part', 'Enter')).toEqual([{ kind: 'address', address: '/elsewhere#part' }]);
  });

  it('has as many lines before an address is left whole as after, so that what is clicked then stays where it is', async () => {
    const picker = mount(PagePicker as never, {
      props: { pages, disabled: false, modelValue: undefined, hasPlaces: true } as never,
      global: { plugins: [createPinia()] },
    });
    const standing = () =>
      [...(picker.element as unknown as Element).children]
        .filter(({ tagName }) => tagName !== 'UL')
        .map(({ className }) => className.split(' ')[0]);
    const place = () => picker.find<HTMLInputElement>('.place input').element;
    const before = standing();
    expect(place().disabled).toBe(true);
    await type(picker, '/journal/night/');
    await picker.find('input').trigger('blur');
    expect(picker.emitted('update:modelValue')?.at(-1)).toEqual([{ kind: 'page', page: '3' }]);
    await picker.setProps({ modelValue: { kind: 'page', page: '3' } } as never);
    expect(standing()).toEqual(before);
    expect(place().disabled).toBe(false);
  });

  it('means nothing by letters alone, and preselects nothing', async () => {
    expect(await type(open(), 'open')).toBeUndefined();
    expect(await type(open(), '/els')).toBeUndefined();
    const untouched = open();
    await untouched.find('input').trigger('focus');
    await untouched.find('input').trigger('keydown', { key: 'Enter' });
    expect(untouched.emitted('update:modelValue')).toBeUndefined();
  });

  it('keeps the first letter that is typed over what was chosen', async () => {
    const picker = open({ kind: 'page', page: '1' });
    await type(picker, 'n');
    expect((picker.find('input').element as HTMLInputElement).value).toBe('n');
  });

  it.each([
    ['home', { kind: 'home' }],
    ['somebody@moor.example', { kind: 'url', url: 'mailto:somebody@moor.example' }],
    ['01970 600 100', { kind: 'url', url: 'tel:01970600100' }],
    ['moor.example/visit', { kind: 'url', url: 'https://moor.example/visit' }],
    ['nowhere', { kind: 'none' }],
  ])('%s is offered where it may be', async (text, target) => {
    expect(await type(open(undefined, ['home', 'url', 'person', 'none']), text, 'Enter')).toEqual([target]);
    expect(await type(open(undefined, []), text, 'Enter')).not.toEqual([target]);
  });
});
