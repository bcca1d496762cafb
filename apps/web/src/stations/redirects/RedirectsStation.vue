<script setup lang="ts">
/** Redirects: old addresses, most visits first, and where each lands. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import type { RedirectRow } from '@fastigium/contracts/api/redirects';
import { computed, nextTick, ref, shallowRef, watch } from 'vue';
import { callLarge } from '../../api/large.ts';
import { useShortcuts } from '../../components/shortcuts.ts';
import KeyHint from '../../components/KeyHint.vue';
import LedgerColumns from '../../components/LedgerColumns.vue';
import LedgerHead from '../../components/LedgerHead.vue';
import LedgerList from '../../components/LedgerList.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import StationLayout from '../../components/StationLayout.vue';
import { mayTakeFocus } from '../../logic/focus.ts';
import JobProgress from '../../components/JobProgress.vue';
import { useReadAtEase } from '../../stores/readAgain.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import BulkBench from './BulkBench.vue';
import { isOpen } from './bulk.ts';
import { reckonCoverage } from './coverage.ts';
import CoverageBar from './CoverageBar.vue';
import FilesBench from './FilesBench.vue';
import GatherBench from './GatherBench.vue';
import PatternsBench from './PatternsBench.vue';
import ProofView from './proof/ProofView.vue';
import RedirectBench, { type RowChange } from '../shared/settling/RedirectBench.vue';
import RedirectRowLine from './RedirectRowLine.vue';
import { settleByKey } from '../shared/settling/settlingKeys.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';

const GRID = 'minmax(0, 5fr) 64px 32px minmax(0, 5fr) 52px';
const COLUMNS = [
  { label: say('common.oldAddress') },
  { label: say('common.visits'), figure: true },
  { label: '' },
  { label: say('redirectsStation.landsOn') },
  { label: say('redirectsStation.evidence') },
];
/** Stands for the form of a new address among the keys of rows, which all start with a slash. */
const NEW = 'new';
/** After a settling the whole list is not read for so long; what is settled shows at once. */
const PAUSE_MS = 1500;

type View = 'open' | 'mend' | 'settled' | 'apart' | 'all';
type Doing = 'gather' | 'bulk' | 'patterns' | 'files';
const site = useSite();
const session = useSession();
const rows = shallowRef<RedirectRow[]>([]);
const pages = shallowRef<PageRow[]>([]);
const loaded = ref(false);
const view = ref<View>('open');
const search = ref('');
const selected = ref<string>();
const benchOpen = ref(false);
const doing = ref<Doing>();
const isProving = ref(false);
/** Grows whenever the list was read again, so that the bench looks again too. */
const readings = ref(0);
const bench = ref<InstanceType<typeof RedirectBench>>();
const list = ref<{ focus(): void }>();

const postpone = useReadAtEase(
  async (id) => {
    const [redirects, tree] = await Promise.all([
      callLarge('redirects', 'rows', { site: id }, 'rows'),
      callLarge('draft', 'pages', { site: id }, 'pages'),
    ]);
    // Whoever settles fast may hear of a list from before: what was settled since would be open again.
    if (redirects.version < (site.overview?.version ?? 0)) return false;
    const isFirst = rows.value.length === 0;
    rows.value = redirects.rows;
    pages.value = tree.pages;
    readings.value += 1;
    if (isFirst) view.value = rows.value.some(isOpen) ? 'open' : 'all';
    loaded.value = true;
    return true;
  },
  ['draft', 'redirects'],
  PAUSE_MS,
);

const home = computed(() => pages.value.find(({ isHome }) => isHome));
const chains = computed(() =>
  view.value === 'mend' ? shown.value.filter(({ problem }) => problem?.kind === 'chain') : [],
);
const HOLDS: Readonly<Record<View, (row: RedirectRow) => boolean>> = {
  open: isOpen,
  mend: ({ problem }) => problem !== null,
  settled: (row) => row.origin !== 'open',
  apart: (row) => row.origin === 'open' && row.kind === 'noise',
  all: () => true,
};
/** In one go, since there may be fifty thousand. */
const counts = computed(() => {
  const sum = { open: 0, mend: 0, settled: 0, apart: 0 };
  for (const each of rows.value) {
    if (HOLDS.open(each)) sum.open += 1;
    if (HOLDS.mend(each)) sum.mend += 1;
    if (HOLDS.settled(each)) sum.settled += 1;
    if (HOLDS.apart(each)) sum.apart += 1;
  }
  return sum;
});
const sums = computed(() => reckonCoverage(rows.value));
const suggesting = computed(() => [...site.jobs.values()].find(({ kind }) => kind === 'suggest'));
const shown = computed(() => {
  const wanted = search.value.toLowerCase();
  return rows.value.filter(
    (row) =>
      HOLDS[view.value](row) &&
      (wanted === '' || `${row.from} ${row.to ?? ''} ${row.toTitle ?? ''}`.toLowerCase().includes(wanted)),
  );
});
const row = computed(() => rows.value.find(({ from }) => from === selected.value));
const place = computed(() => {
  const at = shown.value.findIndex(({ from }) => from === selected.value);
  return at < 0 ? '' : say('redirectsStation.of', { at: at + 1, shown: shown.value.length });
});
/** A row that a person chooses takes the bench; one that is chosen because the list changed does not. */
const chosen = computed({
  get: () => selected.value,
  set: (from) => {
    doing.value = undefined;
    selected.value = from;
  },
});
watch(
  [shown, loaded],
  ([now]) => {
    if (!loaded.value) return;
    // Where there was nothing, a form stood; once there are rows and nobody is writing in it, the first of them is next.
    const isIdle = selected.value === NEW && doing.value !== undefined && now.length > 0;
    const isStillThere = (selected.value === NEW && !isIdle) || rows.value.some(({ from }) => from === selected.value);
    if (!isStillThere) selected.value = now[0]?.from ?? NEW;
  },
  { immediate: true },
);

// Another kind of addresses begins at its first; what is being written stays.
watch(view, () => {
  if (doing.value === undefined && selected.value !== NEW && !shown.value.some(({ from }) => from === selected.value))
    selected.value = shown.value[0]?.from;
});

/** After a decision the next one waits: the row below, or the one above at the end. Noted before the list changes. */
let upcoming: string | undefined;

function noteNext(from: string): void {
  postpone();
  const at = shown.value.findIndex((each) => each.from === from);
  upcoming = (shown.value[at + 1] ?? shown.value[at - 1])?.from;
}

/** The list is read again in a while; until then the row shows what was decided. */
function moveOn(change?: RowChange): void {
  if (upcoming !== undefined) selected.value = upcoming;
  if (change) {
    // After the bench, not with it: neither of the two may make the other wait.
    setTimeout(() => {
      rows.value = rows.value.map((each) => (each.from === change.from ? { ...each, ...change } : each));
    });
  }
  if (mayTakeFocus()) list.value?.focus();
}

function add(): void {
  if (!session.mayEdit) return;
  doing.value = undefined;
  selected.value = NEW;
  benchOpen.value = true;
  runInBackground(nextTick(() => bench.value?.start()));
}

function startWork(): void {
  benchOpen.value = true;
  runInBackground(nextTick(() => bench.value?.start()));
}

function begin(what: Doing): void {
  if (!session.mayEdit && (what === 'gather' || what === 'bulk')) return;
  doing.value = what;
  benchOpen.value = true;
}

/** From the proof to the one that is to be settled otherwise. */
function settleOtherwise(from: string): void {
  isProving.value = false;
  [view.value, search.value, doing.value, selected.value] = ['all', '', undefined, from];
  benchOpen.value = true;
}

/** Enter takes what is chosen where something is; otherwise a page has to be written. */
function onEnter(item: RedirectRow): void {
  if (!session.mayEdit) return;
  if (isOpen(item) && item.suggestion) void bench.value?.settle();
  else startWork();
}

function onKey(event: KeyboardEvent, item: RedirectRow | undefined): void {
  if (item && session.mayEdit) settleByKey(event, bench.value, startWork);
}

useShortcuts(() =>
  isProving.value
    ? []
    : [
        { key: 'v', run: () => (isProving.value = true) },
        { key: 'f', run: () => begin('files') },
        { key: 'a', run: add },
        { key: 'b', run: () => begin('gather') },
        { key: 'm', run: () => begin('bulk') },
        { key: 'p', run: () => begin('patterns') },
      ],
);
</script>

<template>
  <ProofView v-if="isProving" @leave="isProving = false" @settle="settleOtherwise" />
  <StationLayout
    v-else
    v-model:bench-open="benchOpen"
    :bench-of="doing ?? selected"
    :bench-label="say('redirectsStation.theSelectedOldAddress')"
  >
    <template #ledger>
      <CoverageBar :sums="sums" />
      <LedgerHead v-model="search" :search-label="say('redirectsStation.searchAddresses')">
        <SegmentedChoice
          v-model="view"
          :label="say('redirectsStation.whichAddresses')"
          :options="[
            { value: 'open', label: say('redirectsStation.toSettle', { open: counts.open }) },
            ...(counts.mend > 0
              ? [{ value: 'mend' as const, label: say('redirectsStation.toMend', { mend: counts.mend }) }]
              : []),
            { value: 'settled', label: say('redirectsStation.settled', { settled: counts.settled }) },
            ...(counts.apart > 0
              ? [{ value: 'apart' as const, label: say('redirectsStation.setApart', { apart: counts.apart }) }]
              : []),
            { value: 'all', label: say('redirectsStation.all', { rows: rows.length }) },
          ]"
        />
      </LedgerHead>
      <div class="acts">
        <template v-if="session.mayEdit">
          <v-btn height="28" @click="begin('gather')"
            >{{ say('redirectsStation.bringInOldAddresses') }}<KeyHint keys="B"
          /></v-btn>
          <v-btn height="28" :disabled="counts.open === 0" @click="begin('bulk')"
            >{{ say('redirectsStation.manyAtOnce') }}<KeyHint keys="M"
          /></v-btn>
          <v-btn height="28" @click="begin('patterns')"
            >{{ say('redirectsStation.patterns') }}<KeyHint keys="P"
          /></v-btn>
          <v-btn height="28" @click="add">{{ say('redirectsStation.addOne') }}<KeyHint keys="A" /></v-btn>
        </template>
        <span class="gap" />
        <v-btn height="28" @click="begin('files')">{{ say('common.files') }}<KeyHint keys="F" /></v-btn>
        <v-btn height="28" :disabled="rows.length === 0" @click="isProving = true"
          >{{ say('redirectsStation.prove') }}<KeyHint keys="V"
        /></v-btn>
      </div>
      <p v-if="view === 'mend' && chains.length > 0 && session.mayEdit" class="mend">
        {{ say('redirectsStation.redirectsTakeMoreThanOne', { chains: chains.length }) }}
        <button type="button" class="text-link" @click="site.decide({ kind: 'chains-flattened', addresses: null })">
          {{ say('redirectsStation.leadAllOfThemThere', { chains: chains.length }) }}
        </button>
      </p>
      <JobProgress
        v-if="suggesting"
        class="job"
        :job="suggesting"
        :can-cancel="session.mayEdit"
        @cancel="site.cancel(suggesting.id)"
      />
      <LedgerColumns :grid="GRID" :columns="COLUMNS" />
      <LedgerList
        ref="list"
        v-model="chosen"
        :items="shown"
        :key-of="(each) => each.from"
        :row-height="44"
        :label="say('common.oldAddresses')"
        @pick="((benchOpen = true), (doing = undefined))"
        @enter="onEnter"
        @key="onKey"
      >
        <template #default="{ item }"><RedirectRowLine :row="item" :grid="GRID" /></template>
        <template #empty>
          <p v-if="loaded" class="empty">
            {{
              search !== ''
                ? say('redirectsStation.noAddressHoldsTheseLetters')
                : view === 'open' && rows.length > 0
                  ? say('redirectsStation.everyOldAddressIsSettled')
                  : rows.length === 0
                    ? say('redirectsStation.noOldAddressYetBring')
                    : say('common.noneIsLikeThis')
            }}
          </p>
        </template>
      </LedgerList>
    </template>
    <template #bench>
      <GatherBench v-if="doing === 'gather'" :tick="readings" @leave="doing = undefined" />
      <BulkBench v-else-if="doing === 'bulk'" :rows="rows" :home="home?.id" @leave="doing = undefined" />
      <FilesBench v-else-if="doing === 'files'" :tick="readings" @leave="doing = undefined" />
      <PatternsBench v-else-if="doing === 'patterns'" :tick="readings" @leave="doing = undefined" />
      <RedirectBench
        v-else-if="loaded"
        :key="selected ?? NEW"
        ref="bench"
        :row="row"
        :pages="pages"
        :place="place"
        :tick="readings"
        @settling="noteNext"
        @settled="moveOn"
        @back="mayTakeFocus() && list?.focus()"
      />
    </template>
  </StationLayout>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
  padding: 6px 20px;
  border-bottom: var(--line);
}
.gap {
  flex: 1;
}
.job {
  padding: 4px 20px;
}
.mend {
  margin: 0;
  padding: 6px 20px;
  border-bottom: var(--line);
  font-size: 13px;
}
.empty {
  padding: 20px;
  margin: 0;
  color: var(--ink-5);
}
</style>
