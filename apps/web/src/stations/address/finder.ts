/** Finding a name: what was typed, what came back, which one is looked at. */
import { addressApi, type FoundName } from '@fastigium/contracts/api/address';
import {
  computed,
  inject,
  provide,
  ref,
  shallowRef,
  type ComputedRef,
  type InjectionKey,
  type Ref,
  type ShallowRef,
} from 'vue';
import { call } from '../../api/client.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';
import { say } from './words.ts';

export interface Finder {
  readonly typed: Ref<string>;
  readonly names: Readonly<ShallowRef<readonly FoundName[] | undefined>>;
  /** How many answers there were: names of one are not those of another. */
  readonly answers: Readonly<Ref<number>>;
  readonly searching: Readonly<Ref<boolean>>;
  readonly selected: Ref<string | undefined>;
  readonly chosen: ComputedRef<FoundName | undefined>;
  /** `quietly`: nothing is selected by it. */
  search(quietly?: boolean): Promise<void>;
}

const key: InjectionKey<Finder> = Symbol('finder');

export function provideFinder(): void {
  const site = useSite();
  const notices = useNotices();
  const typed = ref('');
  const names = shallowRef<readonly FoundName[]>();
  const answers = ref(0);
  const searching = ref(false);
  const selected = ref<string>();
  let searches = 0;
  provide(key, {
    typed,
    names,
    answers,
    searching,
    selected,
    chosen: computed(() => names.value?.find(({ name }) => name === selected.value)),
    async search(quietly = false) {
      const { id } = site;
      if (id === undefined || typed.value.trim() === '') return;
      searching.value = true;
      // What would be bought is never one name when the button is aimed at and another when it is met.
      selected.value = undefined;
      const asked = (searches += 1);
      try {
        const answer = await call(addressApi.find, { params: { site: id }, query: { q: typed.value } });
        // Only the answer to the latest question counts; an older one may arrive after it.
        if (asked !== searches) return;
        names.value = answer.names;
        answers.value += 1;
        if (!quietly)
          selected.value = (names.value.find((each) => each.asked) ?? names.value.find(({ state }) => state === 'free'))
            ?.name;
      } catch (error) {
        notices.problem(error);
      } finally {
        if (asked === searches) searching.value = false;
      }
    },
  });
}

export function useFinder(): Finder {
  const finder = inject(key);
  if (!finder) throw new Error(say('finder.onlyInsideTheAddressStation'));
  return finder;
}
