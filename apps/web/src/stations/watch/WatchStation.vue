<script setup lang="ts">
/** Watch: what visitors of the live site do not find, settled in place, and which redirects they use. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import type { RedirectRow } from '@fastigium/contracts/api/redirects';
import { watchApi, type LostAddress, type Watch } from '@fastigium/contracts/api/watch';
import { computed, nextTick, ref, shallowRef, watch } from 'vue';
import { useRoute } from 'vue-router';
import { call } from '../../api/client.ts';
import { callLarge } from '../../api/large.ts';
import KeystoneMark from '../../components/KeystoneMark.vue';
import LedgerColumns from '../../components/LedgerColumns.vue';
import LedgerHead from '../../components/LedgerHead.vue';
import LedgerList from '../../components/LedgerList.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import StationLayout from '../../components/StationLayout.vue';
import { mayTakeFocus } from '../../logic/focus.ts';
import { formatFigure } from '../../logic/format.ts';
import { useReadAgain } from '../../stores/readAgain.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { useWorld } from '../../stores/world.ts';
import RedirectBench from '../shared/settling/RedirectBench.vue';
import { settleByKey } from '../shared/settling/settlingKeys.ts';
import { formatShownAddress } from '../shared/settling/shownAddress.ts';
import AlertLines from '../shared/AlertLines.vue';
import DayTicks from './DayTicks.vue';
import RuleUseBench from './RuleUseBench.vue';
import RulesLedger from './RulesLedger.vue';
import UpView from './UpView.vue';
import WatchDays from './WatchDays.vue';
import { isOpen, isWorthRetiring, STANDING } from './watchWords.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';

const GRID_LOST = 'minmax(0, 5fr) 76px 56px minmax(0, 3fr)';
type View = 'lost' | 'all' | 'used' | 'unused' | 'up';
const site = useSite();
const session = useSession();
const world = useWorld();
const seen = shallowRef<Watch>();
const redirects = shallowRef<readonly RedirectRow[]>([]);
const pages = shallowRef<readonly PageRow[]>([]);
const readings = ref(0);
const view = ref<View>(useRoute().query.show === 'host' ? 'up' : 'lost');
const search = ref('');
const selected = ref<string>();
const benchOpen = ref(false);
const list = ref<{ focus(): void }>();
const bench = ref<InstanceType<typeof RedirectBench>>();

useReadAgain(
  async (id) => {
    seen.value = await call(watchApi.get, { params: { site: id } });
  },
  ['draft', 'watch', 'redirects'],
);
// Every probe is told of; the rows of all redirects and pages are read where they may have changed.
useReadAgain(
  async (id) => {
    redirects.value = (await callLarge('redirects', 'rows', { site: id }, 'rows')).rows;
    readings.value += 1;
  },
  ['draft', 'redirects'],
);
useReadAgain(async (id) => {
  pages.value = (await callLarge('draft', 'pages', { site: id }, 'pages')).pages;
});

const now = computed(() => new Date(world.nowMs));
const holds = (text: string) => text.toLowerCase().includes(search.value.toLowerCase());
const open = computed(() => (seen.value?.lost ?? []).filter(isOpen));
const used = computed(() => (seen.value?.rules ?? []).filter(({ visits }) => visits > 0));
const unused = computed(() => (seen.value?.rules ?? []).filter(({ visits }) => visits === 0));
const lostRows = computed(() =>
  (view.value === 'lost' ? open.value : view.value === 'all' ? (seen.value?.lost ?? []) : []).filter(({ address }) =>
    holds(address),
  ),
);
const ruleRows = computed(() =>
  (view.value === 'used' ? used.value : view.value === 'unused' ? unused.value : []).filter(({ from, to }) =>
    holds(`${from} ${to ?? ''}`),
  ),
);
/** Decided here, exact, and used by nobody for so long. */
const retiring = computed(() =>
  ruleRows.value.filter(
    (rule) =>
      !rule.isPattern &&
      isWorthRetiring(rule, seen.value?.since ?? null, world.nowMs) &&
      byFrom.value.get(rule.from)?.origin === 'decided',
  ),
);
const retireAll = () =>
  runInBackground(site.decide({ kind: 'redirects', settle: [], remove: retiring.value.map(({ from }) => from) }));
const isRules = computed(() => view.value === 'used' || view.value === 'unused');
const byFrom = computed(() => new Map(redirects.value.map((row) => [row.from, row])));
const row = computed(() => (selected.value === undefined ? undefined : byFrom.value.get(selected.value)));
const lost = computed(() => seen.value?.lost.find(({ address }) => address === selected.value));
const rule = computed(() => seen.value?.rules.find(({ from }) => from === selected.value));
const place = computed(() => {
  const at = lostRows.value.findIndex(({ address }) => address === selected.value);
  return at < 0 ? '' : say('watchStation.of', { at: at + 1, lostRows: lostRows.value.length });
});

watch(
  [lostRows, ruleRows],
  () => {
    const keys = isRules.value ? ruleRows.value.map(({ from }) => from) : lostRows.value.map(({ address }) => address);
    if (selected.value === undefined || !keys.includes(selected.value)) selected.value = keys[0];
  },
  { immediate: true },
);

/** After a decision the next one waits: the row below, or the one above at the end. Noted before the list changes. */
let upcoming: string | undefined;
function noteNext(from: string): void {
  const at = lostRows.value.findIndex(({ address }) => address === from);
  upcoming = (lostRows.value[at + 1] ?? lostRows.value[at - 1])?.address;
}
function moveOn(): void {
  if (upcoming !== undefined && view.value === 'lost') selected.value = upcoming;
  if (mayTakeFocus()) list.value?.focus();
}

function startWork(): void {
  benchOpen.value = true;
  runInBackground(nextTick(() => bench.value?.start()));
}
function onEnter(item: LostAddress): void {
  if (!session.mayEdit) return;
  if (item.standing === 'lost' && byFrom.value.get(item.address)?.suggestion) void bench.value?.settle();
  else startWork();
}
function onKey(event: KeyboardEvent, item: LostAddress | undefined): void {
  if (item && session.mayEdit) settleByKey(event, bench.value, startWork);
}
const emptyWords = computed(() => {
  if (!seen.value) return '';
  if (search.value !== '') return say('watchStation.noneHoldsTheseLetters');
  if (seen.value.state === 'none') return say('watchStation.nothingIsLiveYetFrom');
  if (seen.value.state === 'no-log') return say('watchStation.thisHostGivesNoAccess');
  if (isRules.value)
    return view.value === 'used'
      ? say('watchStation.noRedirectHasBeenUsed')
      : say('watchStation.everyRedirectHasBeenUsed');
  return seen.value.lost.length > 0 && view.value === 'lost'
    ? say('watchStation.everythingVisitorsAskedForIs')
    : say('watchStation.nobodyHasAskedForAnything');
});
</script>

<template>
  <StationLayout
    v-model:bench-open="benchOpen"
    :bench-of="selected"
    :bench-label="say('watchStation.theSelectedAddress')"
  >
    <template #ledger>
      <WatchDays v-if="seen && seen.state !== 'none'" :seen="seen" :now="now" />
      <AlertLines v-if="seen" :alerts="seen.alerts" @go="view = $event.kind === 'spike' ? 'lost' : 'up'" />
      <LedgerHead v-model="search" :search-label="say('watchStation.searchAddresses')">
        <SegmentedChoice
          v-model="view"
          :label="say('watchStation.whatToShow')"
          :options="[
            { value: 'lost', label: say('watchStation.foundNothing', { open: open.length }) },
            { value: 'all', label: say('watchStation.allThatDid', { lost: seen?.lost.length ?? 0 }) },
            { value: 'used', label: say('watchStation.redirectsInUse', { used: used.length }) },
            { value: 'unused', label: say('watchStation.neverUsed', { unused: unused.length }) },
            ...(seen && seen.state !== 'none'
              ? [
                  {
                    value: 'up' as const,
                    label:
                      seen.up.isUp === false
                        ? say('watchStation.hostAwayNow')
                        : seen.alerts.some(({ kind }) => kind === 'drift')
                          ? say('watchStation.hostDrifted')
                          : say('watchStation.hostAndDates'),
                  },
                ]
              : []),
          ]"
        />
        <template #after
          ><button
            v-if="session.mayEdit && view === 'unused' && retiring.length > 0"
            class="text-link"
            type="button"
            @click="retireAll"
          >
            {{ say('watchStation.retireAllWorthIt', { retiring: retiring.length }) }}
          </button></template
        >
      </LedgerHead>
      <UpView v-if="view === 'up' && seen" :up="seen.up" :drift="seen.drift" :dates="seen.dates" :now="now" />
      <template v-else-if="!isRules">
        <LedgerColumns
          :grid="GRID_LOST"
          :columns="[
            { label: say('watchStation.askedFor') },
            { label: say('watchStation.n14Days') },
            { label: say('common.visits'), figure: true },
            { label: say('watchStation.whatVisitorsFind') },
          ]"
        />
        <LedgerList
          ref="list"
          v-model="selected"
          :items="lostRows"
          :key-of="(each: LostAddress) => each.address"
          :row-height="44"
          :label="say('watchStation.addressesThatFoundNothing')"
          @pick="benchOpen = true"
          @enter="onEnter"
          @key="onKey"
        >
          <template #default="{ item }">
            <div class="cells" :style="{ gridTemplateColumns: GRID_LOST }">
              <span class="two"
                ><span class="address one-line" :title="item.address">{{ formatShownAddress(item.address) }}</span
                ><span class="quiet one-line">{{
                  item.referrer
                    ? say('watchStation.from', { referrer: item.referrer.replace(/^https?:\/\//, '') })
                    : say('watchStation.typedFromABookmarkOr')
                }}</span></span
              >
              <DayTicks :days="item.byDay" />
              <span class="figure">{{ formatFigure(item.visits) }}</span>
              <span class="state"
                ><KeystoneMark
                  :mark="item.isApart && item.standing === 'lost' ? 'dashed' : STANDING[item.standing].mark"
                /><span class="two"
                  ><span class="one-line">{{
                    item.isApart && item.standing === 'lost'
                      ? say('watchStation.setApart')
                      : STANDING[item.standing].words
                  }}</span
                  ><span v-if="item.isSpike" class="caution">{{
                    say('watchStation.farMoreThanUsualToday')
                  }}</span></span
                ></span
              >
            </div>
          </template>
          <template #empty
            ><p class="empty">{{ emptyWords }}</p></template
          >
        </LedgerList>
      </template>
      <RulesLedger
        v-else
        v-model="selected"
        :rules="ruleRows"
        :since="seen?.since ?? null"
        :now="now"
        :empty="emptyWords"
        @pick="benchOpen = true"
      />
    </template>
    <template #bench>
      <RuleUseBench
        v-if="isRules && rule"
        :key="rule.from"
        :rule="rule"
        :row="row"
        :since="seen?.since ?? null"
        :now="now"
      />
      <template v-else-if="view !== 'up' && lost && row">
        <p v-if="lost.standing === 'settled'" class="quiet">
          {{ say('watchStation.settledOnTheDraftVisitors') }}
        </p>
        <RedirectBench
          :key="lost.address"
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
      <template v-else-if="view === 'up'">
        <h1 class="title-face">{{ say('watchStation.hostAndDates') }}</h1>
        <p class="quiet">
          {{ say('watchStation.everyHourASampleOf') }}
        </p>
        <p class="quiet">
          {{ say('watchStation.everyFiveMinutesTheHome') }}
        </p>
      </template>
      <template v-else>
        <h1 class="title-face">{{ say('watchStation.watch') }}</h1>
        <p class="quiet">
          {{ say('watchStation.whatVisitorsAskForAnd') }}
        </p>
      </template>
    </template>
  </StationLayout>
</template>

<style scoped>
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
.state {
  display: flex;
  align-items: center;
  gap: 8px;
  min-width: 0;
}
.caution {
  color: var(--ochre-dark);
  font-size: 12px;
}
.empty {
  padding: 20px;
  margin: 0;
  color: var(--ink-5);
}
</style>
