<script setup lang="ts">
/** All removals in one list: what, from where, by whom, when, and until when it is kept. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import type { RemovalRow } from '@fastigium/contracts/api/removals';
import { computed, ref, watch } from 'vue';
import LedgerColumns from '../../../components/LedgerColumns.vue';
import LedgerHead from '../../../components/LedgerHead.vue';
import LedgerList from '../../../components/LedgerList.vue';
import StationLayout from '../../../components/StationLayout.vue';
import { useSession } from '../../../stores/session.ts';
import ForGoodPanel from './ForGoodPanel.vue';
import KeepingTime from './KeepingTime.vue';
import { filterRemovals, SORTS, sortRemovals, type SortBy } from './listing.ts';
import { KIND_WORDS } from './removalWords.ts';
import { useRemovals } from './removals.ts';
import RemovedBench from './RemovedBench.vue';
import RemovedCells from './RemovedCells.vue';
import ManyPutBack from './ManyPutBack.vue';
import { say } from '../words.ts';

defineProps<{ pages: readonly PageRow[]; version: number }>();
const GRID = '18px minmax(0, 5fr) minmax(0, 4fr) 92px 62px 84px';
const session = useSession();
const list = useRemovals();
const search = ref('');
const person = ref('');
const kind = ref('');
const sort = ref<SortBy>('newest');
const selected = ref<string>();
const marked = ref(new Set<number>());
const doing = ref<'for-good' | 'put-back' | 'keeping'>();
const benchOpen = ref(false);
const bench = ref<InstanceType<typeof RemovedBench>>();

const all = computed(() => list.value?.rows ?? []);
const people = computed(() => [...new Map(all.value.map(({ by }) => [by.id, by.name]))]);
const kinds = computed(() => [...new Set(all.value.map((row) => row.kind))]);
const rows = computed(() =>
  sortRemovals(filterRemovals(all.value, { search: search.value, person: person.value, kind: kind.value }), sort.value),
);
watch(
  rows,
  (now) => {
    if (!now.some(({ of }) => String(of) === selected.value)) selected.value = now[0] && String(now[0].of);
  },
  { immediate: true },
);
watch(all, (now) => {
  const there = new Set(now.map(({ of }) => of));
  marked.value = new Set([...marked.value].filter((of) => there.has(of)));
  if (marked.value.size === 0 && doing.value !== 'keeping') doing.value = undefined;
});
const row = computed(() => rows.value.find(({ of }) => String(of) === selected.value));
const chosen = computed(() => all.value.filter(({ of }) => marked.value.has(of)));

function mark(each: RemovalRow): void {
  const next = new Set(marked.value);
  if (!next.delete(each.of)) next.add(each.of);
  marked.value = next;
}
const isAllMarked = computed(() => rows.value.length > 0 && rows.value.every(({ of }) => marked.value.has(of)));
const markAll = () => {
  marked.value = isAllMarked.value ? new Set() : new Set(rows.value.map(({ of }) => of));
};

function onKey(event: KeyboardEvent, at: RemovalRow | undefined): void {
  if (event.altKey || !at) return;
  if (event.key === ' ') mark(at);
  else if (event.key === 'b') void bench.value?.putBack();
  else return;
  event.preventDefault();
}
</script>

<template>
  <StationLayout
    v-model:bench-open="benchOpen"
    :bench-of="selected"
    :bench-label="say('removedView.theSelectedRemoval')"
  >
    <template #ledger>
      <LedgerHead v-model="search" :search-label="say('removedView.searchRemovedThings')">
        <slot />
        <template #after>
          <button
            v-if="session.isOwner"
            class="text-link"
            type="button"
            @click="((doing = 'keeping'), (benchOpen = true))"
          >
            {{ say('removedView.keptDays', { noKeptDays: list?.keptDays === 0, keptDays: list?.keptDays ?? 30 }) }}
          </button>
          <span v-else class="quiet">{{
            say('removedView.keptDays', { noKeptDays: list?.keptDays === 0, keptDays: list?.keptDays ?? 30 })
          }}</span>
        </template>
      </LedgerHead>
      <div v-if="all.length > 0" class="filters">
        <label
          >{{ say('removedView.by') }}
          <select v-model="person">
            <option value="">{{ say('removedView.anybody') }}</option>
            <option v-for="[id, name] in people" :key="id" :value="id">{{ name }}</option>
          </select></label
        >
        <label
          >{{ say('removedView.kind') }}
          <select v-model="kind">
            <option value="">{{ say('removedView.any') }}</option>
            <option v-for="each in kinds" :key="each" :value="each">{{ KIND_WORDS[each] }}</option>
          </select></label
        >
        <label
          >{{ say('removedView.order') }}
          <select v-model="sort">
            <option v-for="(words, each) in SORTS" :key="each" :value="each">{{ words }}</option>
          </select></label
        >
        <span class="chosen">
          <template v-if="marked.size > 0">
            <span class="quiet">{{ say('removedView.marked', { marked: marked.size }) }}</span>
            <v-btn v-if="session.mayEdit" height="28" @click="((doing = 'put-back'), (benchOpen = true))">{{
              say('common.putBack')
            }}</v-btn>
            <v-btn
              v-if="session.isOwner"
              height="28"
              color="error"
              variant="text"
              @click="((doing = 'for-good'), (benchOpen = true))"
              >{{ say('removedView.forGood') }}</v-btn
            >
          </template>
          <button v-if="session.mayEdit" class="text-link" type="button" @click="markAll">
            {{ isAllMarked ? say('removedView.markNone') : say('removedView.markAll', { rows: rows.length }) }}
          </button>
        </span>
      </div>
      <LedgerColumns
        :grid="GRID"
        :columns="[
          { label: '' },
          { label: say('common.what') },
          { label: say('removedView.fromWhere') },
          { label: say('removedView.when') },
          { label: say('common.visits'), figure: true },
          { label: say('removedView.kept') },
        ]"
      />
      <LedgerList
        v-model="selected"
        :items="rows"
        :key-of="(each) => String(each.of)"
        :row-height="44"
        :label="say('removedView.removedThings')"
        @pick="benchOpen = true"
        @enter="benchOpen = true"
        @key="onKey"
      >
        <template #default="{ item }">
          <RemovedCells :item="item" :grid="GRID" :is-marked="marked.has(item.of)" @mark="mark(item)" />
        </template>
        <template #empty
          ><p class="empty">
            {{
              list === undefined
                ? ''
                : all.length > 0
                  ? say('removedView.nothingRemovedFitsThis')
                  : say('removedView.nothingIsRemovedWhatYou')
            }}
          </p></template
        >
      </LedgerList>
    </template>
    <template #bench>
      <KeepingTime v-if="doing === 'keeping' && list" :kept-days="list.keptDays" @leave="doing = undefined" />
      <template v-else-if="doing === 'for-good' && chosen.length > 0"
        ><h1 class="title-face">{{ say('removedView.removedThings2', { chosen: chosen.length }) }}</h1>
        <ForGoodPanel :rows="chosen" @leave="doing = undefined" @done="doing = undefined"
      /></template>
      <ManyPutBack v-else-if="doing === 'put-back' && chosen.length > 0" :rows="chosen" @leave="doing = undefined" />
      <RemovedBench v-else-if="row" ref="bench" :key="row.of" :row="row" :pages="pages" :version="version" />
      <template v-else>
        <h1 class="title-face">{{ say('removedView.removed') }}</h1>
        <p class="quiet">
          {{ say('removedView.whateverIsRemovedKeepsIts') }}
        </p>
      </template>
    </template>
  </StationLayout>
</template>

<style scoped>
.filters {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
  align-items: center;
  padding: 6px 20px;
  min-height: 30px;
  border-bottom: var(--line);
  font-size: 12px;
  color: var(--ink-5);
}
select {
  font: inherit;
  color: var(--ink-9);
  background: var(--bench);
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  padding: 2px 4px;
}
.chosen {
  margin-inline-start: auto;
  display: flex;
  gap: 10px;
  align-items: center;
}
.empty {
  padding: 20px;
  margin: 0;
  color: var(--ink-5);
  max-width: 60ch;
}
</style>
