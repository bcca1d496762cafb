<script setup lang="ts">
/** All removals in one list: what, from where, by whom, when, and until when it is kept. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import type { RemovalRow } from '@fastigium/contracts/api/removals';
import { computed, ref, watch } from 'vue';
import KeystoneMark from '../../../components/KeystoneMark.vue';
import LedgerColumns from '../../../components/LedgerColumns.vue';
import LedgerHead from '../../../components/LedgerHead.vue';
import LedgerList from '../../../components/LedgerList.vue';
import StationLayout from '../../../components/StationLayout.vue';
import { dayOf, figure, when } from '../../../logic/format.ts';
import { useSession } from '../../../stores/session.ts';
import { useWorld } from '../../../stores/world.ts';
import ForGoodPanel from './ForGoodPanel.vue';
import KeepingTime from './KeepingTime.vue';
import { filtered, SORTS, sorted, type SortBy } from './listing.ts';
import { keptWords, KIND_WORDS } from './removalWords.ts';
import { useRemovals } from './removals.ts';
import RemovedBench from './RemovedBench.vue';
import ManyPutBack from './ManyPutBack.vue';
import { speak } from '../../../words/index.ts';
import { say } from '../words.ts';

defineProps<{ pages: readonly PageRow[]; version: number }>();
const GRID = '18px minmax(0, 5fr) minmax(0, 4fr) 92px 62px 84px';
const session = useSession();
const world = useWorld();
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
  sorted(filtered(all.value, { search: search.value, person: person.value, kind: kind.value }), sort.value),
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
const isSoon = (each: RemovalRow) =>
  each.keptUntil !== null && new Date(each.keptUntil).getTime() - world.nowMs < 7 * 86_400_000;
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
          <div class="cells" :style="{ gridTemplateColumns: GRID }">
            <span
              class="box"
              :class="{ on: marked.has(item.of) }"
              :title="say('removedView.markItSpace')"
              @click.stop="mark(item)"
              @dblclick.stop
              ><span v-if="marked.has(item.of)" class="visually-hidden">{{ say('removedView.marked2') }}</span></span
            >
            <span class="two"
              ><span class="one-line" :title="item.label"
                ><KeystoneMark class="mark" mark="dashed" />{{ item.label
                }}<span v-if="item.size > 1" class="quiet"
                  >&ensp;{{
                    item.left < item.size
                      ? say('removedView.ofOut', { left: item.left, item: item.size })
                      : say('removedView.andMore', { item: item.size - 1 })
                  }}</span
                ></span
              ><span class="quiet one-line" :class="{ address: item.address }">{{
                item.address ?? KIND_WORDS[item.kind]
              }}</span></span
            >
            <span class="two"
              ><span class="quiet one-line">{{ speak(item.from) }}</span
              ><span class="quiet one-line">{{ item.why }}</span></span
            >
            <span class="two"
              ><span class="quiet one-line">{{ when(item.at, world.now) }}</span
              ><span class="quiet one-line" :title="item.by.name">{{
                say('removedView.by2', { initials: item.by.initials })
              }}</span></span
            >
            <span class="figure quiet">{{ item.visits === null ? '' : figure(item.visits) }}</span>
            <span
              class="quiet one-line"
              :class="{ wait: isSoon(item) }"
              :title="
                item.held
                  ? item.held.reason
                  : item.keptUntil
                    ? say('removedView.goesForGoodOn', { keptUntil: dayOf(item.keptUntil) })
                    : ''
              "
              >{{ keptWords(item) }}</span
            >
          </div>
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
.cells {
  display: grid;
  gap: 16px;
  align-items: center;
}
.two {
  display: grid;
  min-width: 0;
  line-height: 18px;
}
.mark {
  margin-inline-end: 7px;
  vertical-align: -1px;
}
.wait {
  color: var(--ochre-dark);
  font-weight: 600;
}
.box {
  width: 13px;
  height: 13px;
  border: 1px solid var(--ink-5);
  border-radius: 2px;
  background: var(--bench);
  cursor: pointer;
}
.box.on {
  background: var(--ink-9);
  border-color: var(--ink-9);
  box-shadow: inset 0 0 0 2px var(--bench);
}
.empty {
  padding: 20px;
  margin: 0;
  color: var(--ink-5);
  max-width: 60ch;
}
</style>
