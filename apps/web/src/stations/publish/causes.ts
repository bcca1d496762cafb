/** Who made which change since the live release, and what stays out of the next one. */
import { releasesApi, type Cause, type Change } from '@fastigium/contracts/api/releases';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../../api/client.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';

export const useCauses = defineStore('causes', () => {
  const site = useSite();
  const notices = useNotices();
  const causes = shallowRef<readonly Cause[]>([]);
  /** More decisions than are looked at one by one. */
  const isCut = ref(false);
  /** Numbers of decisions. */
  const leftOut = ref<ReadonlySet<number>>(new Set());
  let group: string | undefined;

  watch(
    () => [site.id, site.changes?.version, site.changes?.sinceRelease] as const,
    async ([id, version, since]) => {
      if (id !== group) [causes.value, leftOut.value, group] = [[], new Set(), id];
      if (id === undefined || version === undefined || since === null || since === undefined) return;
      try {
        const answer = await call(releasesApi.causes, { params: { site: id } });
        if (site.id !== id) return;
        causes.value = answer.causes;
        isCut.value = answer.cut;
        const there = new Set(answer.causes.map(({ seq }) => seq));
        leftOut.value = new Set([...leftOut.value].filter((seq) => there.has(seq)));
      } catch (error) {
        notices.problem(error);
      }
    },
    { immediate: true },
  );

  const byKey = computed(() => {
    const out = new Map<string, Cause[]>();
    for (const cause of causes.value) for (const key of cause.changes) out.set(key, [...(out.get(key) ?? []), cause]);
    return out;
  });
  const madeBy = (change: Pick<Change, 'key'>): readonly Cause[] => byKey.value.get(change.key) ?? [];
  /** Whether all that made it stays out. */
  const isLeftOut = (change: Pick<Change, 'key'>): boolean => {
    const all = madeBy(change);
    return all.length > 0 && all.every(({ seq }) => leftOut.value.has(seq));
  };

  function leave(seq: number, out: boolean): void {
    const next = new Set(leftOut.value);
    if (out) next.add(seq);
    else next.delete(seq);
    leftOut.value = next;
  }
  return { causes, isCut, leftOut, causesOf: madeBy, isLeftOut, leave };
});

/** Those who made a change, each once, in the order of their names. */
export function listPeople(causes: readonly Cause[]): string[] {
  return [...new Set(causes.flatMap(({ by }) => (by ? [by.name] : [])))].sort((a, b) => a.localeCompare(b));
}
