<script setup lang="ts">
/** Redirects: old addresses, most visits first, and where each lands. */
import { draftApi, type PageRow, type RedirectRow } from '@fastigium/contracts/api/draft';
import { computed, nextTick, ref, shallowRef, watch } from 'vue';
import { call } from '../../api/client.ts';
import { useShortcuts } from '../../app/shortcuts.ts';
import KeyHint from '../../components/KeyHint.vue';
import LedgerColumns from '../../components/LedgerColumns.vue';
import LedgerHead from '../../components/LedgerHead.vue';
import LedgerList from '../../components/LedgerList.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import StationLayout from '../../components/StationLayout.vue';
import { mayTakeFocus } from '../../logic/focus.ts';
import { figure } from '../../logic/format.ts';
import { useReadAgain } from '../../stores/readAgain.ts';
import { useSession } from '../../stores/session.ts';
import CoverageBar from './CoverageBar.vue';
import RedirectBench from './RedirectBench.vue';
import RedirectRowLine from './RedirectRowLine.vue';

const GRID = 'minmax(0, 5fr) 64px 32px minmax(0, 5fr) 48px';
const COLUMNS = [{ label: 'Old address' }, { label: 'Visits', figure: true }, { label: '' }, { label: 'Lands on' }, { label: '', figure: true }];
/** Stands for the form of a new address among the keys of rows, which all start with a slash. */
const NEW = 'new';

type View = 'open' | 'settled' | 'all';
const session = useSession();
const rows = shallowRef<RedirectRow[]>([]);
const pages = shallowRef<PageRow[]>([]);
const loaded = ref(false);
const view = ref<View>('open');
const search = ref('');
const selected = ref<string>();
const benchOpen = ref(false);
const bench = ref<InstanceType<typeof RedirectBench>>();
const list = ref<{ focus(): void }>();

useReadAgain(async (id) => {
  const [redirects, tree] = await Promise.all([call(draftApi.redirects, { params: { site: id } }), call(draftApi.pages, { params: { site: id } })]);
  rows.value = redirects.rows;
  pages.value = tree.pages;
  if (!loaded.value && !rows.value.some(({ origin }) => origin === 'open')) view.value = 'all';
  loaded.value = true;
});

const isOpen = (row: RedirectRow) => row.origin === 'open';
const openCount = computed(() => rows.value.filter(isOpen).length);
const shown = computed(() => {
  const wanted = search.value.toLowerCase();
  return rows.value.filter((row) =>
    (view.value === 'all' || isOpen(row) === (view.value === 'open')) &&
    (wanted === '' || `${row.from} ${row.to ?? ''} ${row.toTitle ?? ''}`.toLowerCase().includes(wanted)));
});
const row = computed(() => rows.value.find(({ from }) => from === selected.value));
watch([shown, loaded], ([now]) => {
  if (!loaded.value) return;
  const isStillThere = selected.value === NEW || rows.value.some(({ from }) => from === selected.value);
  if (!isStillThere) selected.value = now[0]?.from ?? NEW;
}, { immediate: true });

/** After a decision the next one waits: the row below, or the one above at the end. Noted before the list changes. */
let upcoming: string | undefined;

function noteNext(from: string): void {
  const at = shown.value.findIndex((each) => each.from === from);
  upcoming = (shown.value[at + 1] ?? shown.value[at - 1])?.from;
}

function moveOn(): void {
  if (upcoming !== undefined) selected.value = upcoming;
  if (mayTakeFocus()) list.value?.focus();
}

function add(): void {
  if (!session.mayEdit) return;
  selected.value = NEW;
  benchOpen.value = true;
  void nextTick(() => bench.value?.start());
}

function work(): void {
  benchOpen.value = true;
  void nextTick(() => bench.value?.start());
}

function onKey(event: KeyboardEvent, item: RedirectRow | undefined): void {
  if (!item || !session.mayEdit) return;
  if (event.key === 'e') work();
  else if (event.key === 'h') void bench.value?.settleHome();
  else if (event.key === 'x') void bench.value?.settleGone();
  else return;
  event.preventDefault();
}

useShortcuts(() => [{ key: 'a', run: add }]);
</script>

<template>
  <StationLayout v-model:bench-open="benchOpen" bench-label="The selected old address">
    <template #ledger>
      <CoverageBar :rows="rows" />
      <LedgerHead v-model="search" search-label="Search addresses">
        <SegmentedChoice
          v-model="view" label="Which addresses"
          :options="[{ value: 'open', label: `To settle ${figure(openCount)}` }, { value: 'settled', label: `Settled ${figure(rows.length - openCount)}` }, { value: 'all', label: `All ${figure(rows.length)}` }]"
        />
        <template #after><v-btn v-if="session.mayEdit" height="28" @click="add">Add an old address<KeyHint keys="A" /></v-btn></template>
      </LedgerHead>
      <LedgerColumns :grid="GRID" :columns="COLUMNS" />
      <LedgerList ref="list" v-model="selected" :items="shown" :key-of="(each) => each.from" :row-height="44" label="Old addresses" @pick="benchOpen = true" @enter="work" @key="onKey">
        <template #default="{ item }"><RedirectRowLine :row="item" :grid="GRID" /></template>
        <template #empty>
          <p v-if="loaded" class="empty">{{ search !== '' ? 'No address holds these letters.' : view === 'open' && rows.length > 0 ? 'Every old address is settled.' : 'No old address yet. Add the first one: press A.' }}</p>
        </template>
      </LedgerList>
    </template>
    <template #bench>
      <RedirectBench v-if="loaded" :key="selected ?? NEW" ref="bench" :row="row" :pages="pages" @settling="noteNext" @settled="moveOn" @back="mayTakeFocus() && list?.focus()" />
    </template>
  </StationLayout>
</template>

<style scoped>
.empty { padding: 20px; margin: 0; color: var(--ink-5); }
</style>
