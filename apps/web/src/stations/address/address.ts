/** The Address station's state: the view as the server reckons it, and everything that changes it. */
import {
  addressApi,
  LINKS,
  type AddressView,
  type DomainStanding,
  type LinkName,
} from '@fastigium/contracts/api/address';
import { useNow } from '@vueuse/core';
import {
  computed,
  inject,
  provide,
  ref,
  shallowRef,
  watch,
  type ComputedRef,
  type InjectionKey,
  type Ref,
  type ShallowRef,
} from 'vue';
import { call } from '../../api/client.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';
import { useActing } from './acting.ts';
import { say } from './words.ts';

export interface Address {
  readonly view: Readonly<ShallowRef<AddressView | undefined>>;
  readonly busy: Readonly<Ref<boolean>>;
  /** The world's time, running. */
  readonly nowMs: ComputedRef<number>;
  /** The zone of the domain that is looked at; the main one's until somebody chooses. Empty before there is one. */
  readonly zone: ComputedRef<string>;
  /** How that domain stands. */
  readonly standing: ComputedRef<DomainStanding | undefined>;
  chooseDomain(zone: string): void;
  /** The link that is worked on; the first broken one until somebody chooses. */
  readonly link: ComputedRef<LinkName>;
  choose(link: LinkName): void;
  /** Does something that answers with the new view; what goes wrong is told, and false comes back. */
  act(work: (site: string) => Promise<AddressView | void>, done?: string): Promise<boolean>;
  lookUp(): Promise<boolean>;
}

export const addressKey: InjectionKey<Address> = Symbol('address');

/** Which of the site's domains is looked at; the main one, until another is chosen or once that one is gone. */
export function createDomainChoice(
  view: Readonly<ShallowRef<AddressView | undefined>>,
): Pick<Address, 'zone' | 'standing' | 'chooseDomain'> {
  const chosen = ref<string>();
  const further = computed(() => view.value?.further.find(({ zone }) => zone === chosen.value));
  return {
    zone: computed(() => further.value?.zone ?? view.value?.domain?.zone ?? ''),
    standing: computed(() => further.value ?? view.value),
    chooseDomain: (zone) => {
      chosen.value = zone;
    },
  };
}

/** @param asked the link that a way here names, as in `?link=host` */
export function provideAddress(asked?: unknown): Address {
  const site = useSite();
  const notices = useNotices();
  const view = shallowRef<AddressView>();
  const acting = useActing();
  const chosen = ref(LINKS.find((each) => each === asked));
  const choice = createDomainChoice(view);
  /** How far the world's clock is ahead of this browser's. */
  const aheadMs = ref(0);
  const real = useNow({ interval: 1000 });

  function take(next: AddressView): void {
    view.value = next;
    aheadMs.value = Date.parse(next.now) - Date.now();
  }

  const act: Address['act'] = (work, done) =>
    acting.act(async (id) => {
      const next = await work(id);
      if (next) take(next);
    }, done);

  watch(
    [() => site.id, () => site.versions.address],
    async ([id]) => {
      if (id === undefined) return;
      try {
        take(await call(addressApi.view, { params: { site: id } }));
      } catch (error) {
        notices.problem(error);
      }
    },
    { immediate: true },
  );

  const address: Address = {
    view,
    busy: acting.busy,
    act,
    nowMs: computed(() => real.value.getTime() + aheadMs.value),
    ...choice,
    link: computed(
      () => chosen.value ?? (view.value?.domain ? (choice.standing.value?.firstBroken ?? 'records') : 'registration'),
    ),
    choose: (link) => {
      chosen.value = link;
    },
    lookUp: () => act((id) => call(addressApi.lookUp, { params: { site: id } })),
  };
  provide(addressKey, address);
  return address;
}

export function useAddress(): Address {
  const address = inject(addressKey);
  if (!address) throw new Error(say('address.onlyInsideTheAddressStation'));
  return address;
}
