/** Hosting: plans, regions, places of one's own, and the temporary address. */
import { hostingApi, type HostingView } from '@fastigium/contracts/api/hosting';
import { inject, provide, ref, shallowRef, watch, type InjectionKey, type Ref, type ShallowRef } from 'vue';
import { call } from '../../api/client.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';
import { useActing } from './acting.ts';
import { say } from './words.ts';

export interface Hosting {
  readonly view: Readonly<ShallowRef<HostingView | undefined>>;
  readonly busy: Readonly<Ref<boolean>>;
  readonly months: Ref<number>;
  readonly plan: Ref<string | undefined>;
  readonly region: Ref<string | undefined>;
  act(work: (site: string) => Promise<HostingView>, done: string): Promise<boolean>;
}

const key: InjectionKey<Hosting> = Symbol('hosting');

export function provideHosting(): void {
  const site = useSite();
  const notices = useNotices();
  const view = shallowRef<HostingView>();
  const acting = useActing();
  const months = ref(12);
  const plan = ref<string>();
  const region = ref<string>();
  function take(next: HostingView): void {
    view.value = next;
    plan.value ??= next.account.plan ?? undefined;
    region.value ??= next.account.region ?? next.regions[0]?.id;
  }
  watch(
    [() => site.id, () => site.versions.address, months],
    async ([id]) => {
      if (id === undefined) return;
      try {
        take(await call(hostingApi.view, { params: { site: id }, query: { months: months.value } }));
      } catch (error) {
        notices.problem(error);
      }
    },
    { immediate: true },
  );
  provide(key, {
    view,
    busy: acting.busy,
    months,
    plan,
    region,
    act: (work, done) =>
      acting.act(async (id) => {
        take(await work(id));
        await site.refresh();
      }, done),
  });
}

export function useHosting(): Hosting {
  const hosting = inject(key);
  if (!hosting) throw new Error(say('hosting.onlyInsideTheAddressStation'));
  return hosting;
}
