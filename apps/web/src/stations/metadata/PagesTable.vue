<script setup lang="ts">
/** Every page in one table: titles, descriptions and the rest at a glance, changed in place. */
import type { Metadata } from '@fastigium/contracts/api/metadata';
import { metadataApi } from '@fastigium/contracts/api/metadata';
import { useStorage } from '@vueuse/core';
import { computed, nextTick, ref } from 'vue';
import { writePath } from '../../api/client.ts';
import LedgerColumns from '../../components/LedgerColumns.vue';
import LedgerHead from '../../components/LedgerHead.vue';
import LedgerList from '../../components/LedgerList.vue';
import StationLayout from '../../components/StationLayout.vue';
import { mayTakeFocus } from '../../logic/focus.ts';
import { usePageInAddress } from '../shared/pageInAddress.ts';
import { formatFigure } from '../../logic/format.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import CsvBench from './CsvBench.vue';
import {
  DEFAULT_LIMITS,
  FILTERS,
  judgeRows,
  filterRows,
  SORTS,
  type FilterName,
  type JudgedRow,
  type SortName,
} from './judging.ts';
import { useSetHead } from './metadata.ts';
import PageHeadBench from './PageHeadBench.vue';
import PageMetadataRow from './PageMetadataRow.vue';
import ReplaceBench from './ReplaceBench.vue';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';

const props = defineProps<{ metadata: Metadata }>();
const GRID = 'minmax(0, 4fr) minmax(0, 6fr) minmax(0, 7fr) 30px 74px 66px';
const site = useSite();
const session = useSession();
const set = useSetHead();
const search = ref('');
const filter = ref<FilterName>('all');
const sort = ref<SortName>('tree');
const benchOpen = ref(false);
const doing = ref<'csv' | 'replace'>();
const list = ref<{ focus(): void }>();
/** A matter of taste of whoever looks, so it stays in their browser. */
const limits = useStorage('fastigium.limits', { ...DEFAULT_LIMITS });

const judged = computed(() => judgeRows(props.metadata.rows, limits.value));
const rows = computed(() => filterRows(judged.value, { filter: filter.value, sort: sort.value, search: search.value }));
const counts = computed(
  () =>
    Object.fromEntries(
      Object.entries(FILTERS).map(([name, { holds }]) => [name, judged.value.filter(holds).length]),
    ) as Record<FilterName, number>,
);
const selected = usePageInAddress(
  'metadata',
  () => rows.value[0]?.row.id,
  () => {
    doing.value = undefined;
  },
);
const current = computed(() => judged.value.find(({ row }) => row.id === selected.value));

/** The cell that is being written in. */
const editing = ref<{ id: string; column: 'title' | 'description' }>();

function edit(id: string | undefined, column: 'title' | 'description'): void {
  if (id === undefined || !session.mayEdit) return;
  selected.value = id;
  editing.value = { id, column };
}

async function leave({
  text,
  then,
}: {
  text: string | undefined;
  then: 'down' | 'up' | 'across' | 'none';
}): Promise<void> {
  const at = editing.value;
  if (!at) return;
  const index = rows.value.findIndex(({ row }) => row.id === at.id);
  const row = rows.value[index]?.row;
  editing.value = undefined;
  const before = at.column === 'title' ? row?.ownTitle : row?.description.text;
  const next = then === 'down' ? rows.value[index + 1] : then === 'up' ? rows.value[index - 1] : undefined;
  if (then === 'across') editing.value = { id: at.id, column: at.column === 'title' ? 'description' : 'title' };
  else if (next) edit(next.row.id, at.column);
  else if (then !== 'none') runInBackground(nextTick(() => list.value?.focus()));
  if (text === undefined || text.trim() === before) return;
  const name = at.column === 'title' ? 'title' : 'meta:description';
  await set([{ scope: { kind: 'page', page: at.id }, name, text: text.trim() === '' ? null : text.trim() }]);
}

function take(each: JudgedRow | undefined): void {
  if (!each || each.row.suggestedDescription === '' || each.description !== 'missing') return;
  runInBackground(
    set([
      { scope: { kind: 'page', page: each.row.id }, name: 'meta:description', text: each.row.suggestedDescription },
    ]),
  );
}

function onKey(event: KeyboardEvent, each: JudgedRow | undefined): void {
  if (!each || event.altKey || !session.mayEdit) return;
  if (event.key === 'e') edit(each.row.id, 'title');
  else if (event.key === 'd') edit(each.row.id, 'description');
  else if (event.key === 't') take(each);
  else if (event.key === 'n')
    runInBackground(
      set([{ scope: { kind: 'page', page: each.row.id }, name: 'meta:robots', text: each.isShut ? false : 'noindex' }]),
    );
  else return;
  event.preventDefault();
}

async function takeAll(): Promise<void> {
  const suggested = rows.value.filter(FILTERS.suggested.holds);
  await set(
    suggested.map(({ row }) => ({
      scope: { kind: 'page', page: row.id },
      name: 'meta:description',
      text: row.suggestedDescription,
    })),
  );
}
const csvAddress = computed(() => (site.id === undefined ? '' : writePath(metadataApi.csv, { site: site.id })));
</script>

<template>
  <StationLayout v-model:bench-open="benchOpen" :bench-of="selected" :bench-label="say('pagesTable.theSelectedPage')">
    <template #ledger>
      <LedgerHead v-model="search" :search-label="say('common.searchPages')">
        <slot />
        <template #after>
          <template v-if="session.mayEdit">
            <v-btn height="28" @click="((doing = 'replace'), (benchOpen = true))">{{
              say('pagesTable.findAndReplace')
            }}</v-btn>
            <v-btn height="28" @click="((doing = 'csv'), (benchOpen = true))">{{ say('pagesTable.asATable') }}</v-btn>
          </template>
          <a v-else class="text-link" :href="csvAddress" download>{{ say('pagesTable.asCsv') }}</a>
        </template>
      </LedgerHead>
      <div class="which">
        <label
          >{{ say('pagesTable.show') }}
          <select v-model="filter">
            <option v-for="(each, name) in FILTERS" :key="name" :value="name">
              {{ each.label }} ({{ formatFigure(counts[name]) }})
            </option>
          </select></label
        >
        <label
          >{{ say('pagesTable.order') }}
          <select v-model="sort">
            <option v-for="(label, name) in SORTS" :key="name" :value="name">{{ label }}</option>
          </select></label
        >
        <span class="gap" />
        <span
          v-if="metadata.proof"
          class="proof one-line"
          :title="say('pagesTable.askedOfTheHostAfter', { release: metadata.proof.release })"
          :class="{ fault: metadata.proof.differing.length > 0 }"
          >{{
            metadata.proof.differing.length > 0
              ? say('pagesTable.headsOfNotLiveAs', {
                  differing: metadata.proof.differing.length,
                  pages: metadata.proof.pages,
                })
              : say('pagesTable.headsReadBackAllRight', { pages: metadata.proof.pages })
          }}</span
        >
        <button
          v-if="session.mayEdit && counts.suggested > 0 && filter === 'suggested'"
          class="text-link"
          type="button"
          @click="takeAll"
        >
          {{ say('pagesTable.takeAllSuggestions', { rows: rows.length }) }}
        </button>
        <button v-else-if="counts.suggested > 0" class="text-link" type="button" @click="filter = 'suggested'">
          {{ say('pagesTable.suggested', { suggested: counts.suggested }) }}
        </button>
      </div>
      <LedgerColumns
        :grid="GRID"
        :columns="[
          { label: say('common.page') },
          { label: say('pagesTable.titleOfPx', { titlePx: limits.titlePx }) },
          { label: say('pagesTable.descriptionOfLetters', { descriptionLetters: limits.descriptionLetters }) },
          { label: say('pagesTable.in') },
          { label: say('pagesTable.share') },
          { label: say('pagesTable.search') },
        ]"
      />
      <LedgerList
        ref="list"
        v-model="selected"
        :items="rows"
        :key-of="(each) => each.row.id"
        :row-height="50"
        :label="say('pagesTable.pagesWithTheirMetadata')"
        @pick="benchOpen = true"
        @enter="(each) => edit(each.row.id, 'title')"
        @key="onKey"
      >
        <template #default="{ item }">
          <PageMetadataRow
            :each="item"
            :grid="GRID"
            :limits="limits"
            :flat="sort !== 'tree' || search !== ''"
            :editing="editing?.id === item.row.id ? editing.column : undefined"
            @leave="leave"
            @edit="(column) => edit(item.row.id, column)"
          />
        </template>
        <template #empty
          ><p class="empty">
            {{ search === '' ? say('pagesTable.noPageIsLikeThis') : say('pagesTable.noPageHoldsTheseLetters') }}
          </p></template
        >
      </LedgerList>
    </template>
    <template #bench>
      <CsvBench v-if="doing === 'csv'" :metadata="metadata" :csv-address="csvAddress" @leave="doing = undefined" />
      <ReplaceBench v-else-if="doing === 'replace'" :rows="rows.map(({ row }) => row)" @leave="doing = undefined" />
      <PageHeadBench
        v-else-if="current"
        :key="current.row.id"
        v-model:limits="limits"
        :each="current"
        :metadata="metadata"
        @back="mayTakeFocus() && list?.focus()"
        @take="take(current)"
      />
    </template>
  </StationLayout>
</template>

<style scoped>
.which {
  display: flex;
  align-items: center;
  gap: 18px;
  padding: 6px 20px;
  border-bottom: var(--line);
  font-size: 12px;
  color: var(--ink-5);
}
.which select {
  font: inherit;
  font-size: 13px;
  color: var(--ink-9);
  background: var(--bench);
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  padding: 2px 4px;
  max-width: 190px;
}
.which label {
  display: flex;
  align-items: center;
  gap: 6px;
  white-space: nowrap;
}
.which .proof {
  min-width: 0;
  flex: 0 1 auto;
}
.which .text-link {
  flex: none;
}
.gap {
  flex: 1;
}
.fault {
  color: var(--madder);
}
.empty {
  padding: 20px;
  margin: 0;
  color: var(--ink-5);
}
</style>
