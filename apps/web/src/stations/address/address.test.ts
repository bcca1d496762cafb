// @vitest-environment jsdom
/** The chain and the records as people meet them: by mouse, by keyboard, and when nothing is known. */
import type { AddressView, FurtherDomain, LinkName } from '@fastigium/contracts/api/address';
import { host } from '@fastigium/contracts/messages/address';
import { link } from '@fastigium/core/reach';
import { mount } from '@vue/test-utils';
import { createPinia } from 'pinia';
import { computed, defineComponent, h, ref, shallowRef } from 'vue';
import { describe, expect, it } from 'vitest';
import { ADDRESS_VIEW as VIEW, countFromNow as at, createRecordRow as row, NOW } from '../../testing/addressView.ts';
import { addressKey, createDomainChoice, type Address } from './address.ts';
import AskedList from './AskedList.vue';
import ChainDrawing from './ChainDrawing.vue';
import DomainRow from './DomainRow.vue';
import RecordsTable from './RecordsTable.vue';
import SpreadChart from './SpreadChart.vue';

function stand(
  component: Parameters<typeof mount>[0],
  view: Partial<AddressView> = {},
  props: Record<string, unknown> = {},
) {
  const chosen = ref<LinkName>('records');
  const shown = shallowRef<AddressView | undefined>({ ...VIEW, ...view });
  const address: Address = {
    view: shown,
    ...createDomainChoice(shown),
    busy: ref(false),
    nowMs: computed(() => NOW),
    link: computed(() => chosen.value),
    choose: (link) => {
      chosen.value = link;
    },
    act: () => Promise.resolve(true),
    lookUp: () => Promise.resolve(true),
  };
  return {
    wrapper: mount(component, {
      props,
      global: { plugins: [createPinia()], provide: { [addressKey as symbol]: address } },
      attachTo: document.body,
    }),
    chosen,
    shown,
  };
}

describe('the chain', () => {
  it('shows five links with their words; the chosen one is the only one in the tab order', () => {
    const { wrapper } = stand(ChainDrawing);
    const tabs = wrapper.findAll('[role=tab]');
    expect(tabs.map((tab) => tab.text())).toEqual([
      'Registrationheld',
      'Name serversns1 answer alike',
      'Records1 of 2 right',
      'Certificatewaits for records',
      'Hostanswers in 4 ms',
    ]);
    expect(tabs.map((tab) => tab.attributes('tabindex'))).toEqual(['-1', '-1', '0', '-1', '-1']);
    expect(wrapper.findAll('.keystone').map((mark) => mark.classes().find((name) => name !== 'keystone'))).toEqual([
      'verdigris',
      'verdigris',
      'madder',
      'dashed',
      'verdigris',
    ]);
  });

  it('without a domain names the host that is there, and claims none', () => {
    const bare = { ...VIEW, domain: null, chain: [] };
    const words = (view: AddressView) => stand(ChainDrawing, view).wrapper.findAll('[role=tab]').at(-1)?.text();
    expect(words(bare)).toBe('Hosttemporary address');
    expect(words({ ...bare, temporary: null, hostWords: host('none') })).toBe('Hostno host yet');
  });

  it('is walked with the arrows, round both ends, and chosen by a click', async () => {
    const { wrapper, chosen } = stand(ChainDrawing);
    const list = wrapper.find('[role=tablist]');
    await list.trigger('keydown', { key: 'ArrowRight' });
    expect(chosen.value).toBe('certificate');
    await list.trigger('keydown', { key: 'ArrowRight' });
    await list.trigger('keydown', { key: 'ArrowRight' });
    expect(chosen.value).toBe('registration');
    await list.trigger('keydown', { key: 'ArrowLeft' });
    expect(chosen.value).toBe('host');
    await wrapper.findAll('[role=tab]')[1]?.trigger('click');
    expect(chosen.value).toBe('name-servers');
  });
});

describe('several domains', () => {
  const OLD: FurtherDomain = {
    ...VIEW,
    zone: 'old.example',
    unicode: 'old.example',
    names: ['old.example', 'www.old.example'],
    firstBroken: 'registration',
    chain: VIEW.chain.map((each) =>
      each.link === 'registration' ? { ...each, state: 'broken', words: link('ran-out', { day: '2027-02-01' }) } : each,
    ),
    records: [row('old.example', 'A', [], ['198.51.100.24'], 'missing')],
  };
  const Both = defineComponent({ render: () => [h(DomainRow), h(RecordsTable)] });

  it('stand beside each other, each by itself; the chosen one is what is shown below', async () => {
    const { wrapper, shown } = stand(Both, { further: [OLD] });
    const buttons = () => wrapper.findAll('.domains button');
    expect(buttons().map((each) => [each.text(), each.attributes('aria-pressed')])).toEqual([
      ['a.examplerecords: 1 of 2 right', 'true'],
      ['old.exampleregistration: ran out 1 February 2027', 'false'],
    ]);
    expect(wrapper.text()).toContain('203.0.113.9');
    expect(wrapper.text()).toContain('Zone file');
    await buttons()[1]?.trigger('click');
    expect(wrapper.text()).not.toContain('203.0.113.9');
    expect(wrapper.text()).not.toContain('Zone file');
    // One that was let go meanwhile is not shown any more.
    shown.value = { ...VIEW, further: [] };
    await wrapper.vm.$nextTick();
    expect(buttons()).toHaveLength(0);
    expect(wrapper.text()).toContain('203.0.113.9');
  });
});

describe('the records', () => {
  it('stand answered beside needed; mail is in sight, the rest of what stays can be opened', async () => {
    const { wrapper } = stand(RecordsTable);
    const rows = () =>
      wrapper
        .findAll('[role=row]')
        .slice(1)
        .map((each) =>
          each
            .findAll('[role=cell]')
            .map((cell) => cell.text())
            .join(' | '),
        );
    expect(rows()).toEqual([
      'www | CNAME | edge.host.test. | right | 3600',
      '@ | A | 203.0.113.9 | 198.51.100.24 | 3600',
      '@ | MX | 10 mail.a.example. | left as it is | 3600',
    ]);
    await wrapper.find('.more').trigger('click');
    expect(rows()).toHaveLength(4);
    expect(rows()[3]).toContain('"v=spf1"');
  });

  it('claim nothing when no name server answered', () => {
    const { wrapper } = stand(RecordsTable, { records: [] });
    expect(wrapper.text()).toContain('No name server answered');
    expect(wrapper.find('.more').exists()).toBe(false);
  });
});

describe('the spread', () => {
  it('says until when, beside each bar, and when it is over everywhere', () => {
    const { wrapper } = stand(SpreadChart);
    expect(wrapper.findAll('li').map((each) => each.text())).toEqual([
      'Name serversnew',
      'Homeold for 30 min',
      'Officenew',
    ]);
    expect(wrapper.text()).toContain('The last old answer runs out');
    expect(wrapper.text()).toContain('Nothing needs republishing');
  });

  it('is over when it is over, and says nothing of the kind while no name server answers', () => {
    const over = stand(SpreadChart, {
      spread: { ...(VIEW.spread as NonNullable<AddressView['spread']>), everyoneBy: at(-1), resolvers: [] },
    });
    expect(over.wrapper.text()).toContain('Every old answer has run out');
    const silent = stand(SpreadChart, {
      spread: {
        ...(VIEW.spread as NonNullable<AddressView['spread']>),
        authorityAnswers: false,
        authorityNewSince: null,
        everyoneBy: null,
      },
    });
    expect(silent.wrapper.text()).toContain('No name server answers');
    expect(silent.wrapper.text()).not.toContain('run out everywhere');
  });
});

describe('what was asked', () => {
  it('is there question by question, with those that were not answered counted', () => {
    const { wrapper } = stand(AskedList, {}, { of: 'records', open: true });
    expect(wrapper.find('summary').text()).toBe('What was asked: 2 questions, 1 without an answer');
    expect(
      wrapper.findAll('tbody tr').map((each) =>
        each
          .findAll('td')
          .map((cell) => cell.text())
          .join(' | '),
      ),
    ).toEqual(['A a.example | ns1 | 203.0.113.9 | 4 ms', 'A a.example | Campus | no answer within 2 s | 4000 ms']);
    expect(stand(AskedList, {}, { of: 'host' }).wrapper.find('details').exists()).toBe(false);
  });
});
