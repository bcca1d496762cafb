import { computed, ref, watch, type WritableComputedRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { runInBackground } from '../../stores/background.ts';

/**
 * The page named in the address bar, else the first. One that is chosen here is chosen at once: the router
 * takes a moment, and a key that is pressed within it must not act on the page before.
 *
 * @param route name of a route with a parameter `page`
 * @param first the page while none is named
 * @param onChoose runs when one is chosen here
 */
export function usePageInAddress(
  route: string,
  first: () => string | undefined,
  onChoose: () => void,
): WritableComputedRef<string | undefined> {
  const at = useRoute();
  const router = useRouter();
  const named = () => (typeof at.params.page === 'string' && at.params.page !== '' ? at.params.page : undefined);
  const chosen = ref(named());
  watch(named, (page) => {
    chosen.value = page;
  });
  return computed({
    get: () => chosen.value ?? first(),
    set: (page) => {
      onChoose();
      chosen.value = page;
      runInBackground(router.replace({ name: route, params: { page }, query: at.query }));
    },
  });
}
