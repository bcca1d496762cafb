<script setup lang="ts">
/** Survey: what came in, and the worklist of what the checks found in it. */
import { importsApi, type Survey } from '@fastigium/contracts/api/imports';
import { snagsApi, type Snags } from '@fastigium/contracts/api/snags';
import { computed, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { call } from '../../api/client.ts';
import BringIn from '../shared/BringIn.vue';
import JobProgress from '../../components/JobProgress.vue';
import LedgerColumns from '../../components/LedgerColumns.vue';
import LedgerHead from '../../components/LedgerHead.vue';
import LedgerList from '../../components/LedgerList.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import StationLayout from '../../components/StationLayout.vue';
import { readDay } from '../../logic/format.ts';
import { useReadAgain } from '../../stores/readAgain.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import type { Alert } from '@fastigium/contracts/api/watch';
import AlertLines from '../shared/AlertLines.vue';
import ReviewExport from './ReviewExport.vue';
import SnagBench from './SnagBench.vue';
import SurveyBench from './SurveyBench.vue';
import SurveyRow from './SurveyRow.vue';
import { groupSurveyRows, searchItems, VIEWS, type SurveyItem, type SurveyView } from './surveyRows.ts';
import { explainKept } from '../../words/index.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';

const site = useSite();
const session = useSession();
const route = useRoute();
const router = useRouter();
const goToWatch = ({ kind }: Alert) =>
  runInBackground(router.push({ name: 'watch', query: kind === 'spike' || kind === 'log' ? {} : { show: 'host' } }));
const survey = shallowRef<Survey>();
const snags = shallowRef<Snags>();
const search = ref('');
const selected = ref<string>();
const benchOpen = ref(false);
const bringing = ref(false);
const bench = ref<InstanceType<typeof SnagBench>>();

useReadAgain(
  async (id) => {
    survey.value = site.overview?.files === 0 ? undefined : await call(importsApi.survey, { params: { site: id } });
  },
  [() => site.overview?.lastImport?.id, () => site.overview?.files],
);
useReadAgain(
  async (id) => {
    snags.value = site.overview?.files === 0 ? undefined : await call(snagsApi.list, { params: { site: id } });
  },
  ['draft', 'snags'],
);

const counts = computed(() => ({
  must: site.overview?.snags.must ?? 0,
  should: site.overview?.snags.should ?? 0,
  dismissed: site.overview?.snags.dismissed ?? 0,
  pages: survey.value?.pages.length ?? 0,
  assets: survey.value?.assets.length ?? 0,
  notes: survey.value?.notes.length ?? 0,
}));
/** What must be fixed comes first, as long as there is any. */
const first = computed<SurveyView>(() =>
  counts.value.must > 0 ? 'must' : counts.value.should > 0 ? 'should' : 'pages',
);
const view = computed<SurveyView>({
  get: () => VIEWS.find((each) => each === route.query.show) ?? first.value,
  set: (next) => runInBackground(router.replace({ query: { show: next } })),
});
const options = computed(() => [
  { value: 'must' as const, label: say('surveyStation.mustBeFixed', { must: counts.value.must }) },
  { value: 'should' as const, label: say('surveyStation.worthALook', { look: counts.value.should }) },
  ...(counts.value.dismissed > 0
    ? [{ value: 'dismissed' as const, label: say('surveyStation.letBe', { dismissed: counts.value.dismissed }) }]
    : []),
  { value: 'pages' as const, label: say('surveyStation.pages', { pages: counts.value.pages }) },
  { value: 'assets' as const, label: say('surveyStation.files', { assets: counts.value.assets }) },
  ...(counts.value.notes > 0
    ? [{ value: 'notes' as const, label: say('surveyStation.notes', { notes: counts.value.notes }) }]
    : []),
]);
const isSnags = computed(() => view.value === 'must' || view.value === 'should' || view.value === 'dismissed');
const layout = computed(() => groupSurveyRows(view.value).layout);
const rows = computed<SurveyItem[]>(() =>
  survey.value
    ? searchItems(
        groupSurveyRows(view.value).items({ survey: survey.value, snags: snags.value }),
        search.value.toLowerCase(),
      )
    : [],
);
const item = computed(() => rows.value.find(({ key }) => key === selected.value));
/** The place of the chosen row, so that working one off leads to the next. */
let lastIndex = 0;
watch(
  rows,
  (now, before) => {
    const index = now.findIndex(({ key }) => key === selected.value);
    if (index >= 0) return;
    const from = before === undefined ? 0 : Math.min(lastIndex, now.length - 1);
    selected.value = (
      now.slice(Math.max(0, from)).find(({ heading }) => !heading) ?? now.find(({ heading }) => !heading)
    )?.key;
  },
  { immediate: true },
);
watch(selected, (key) => {
  lastIndex = Math.max(
    0,
    rows.value.findIndex((row) => row.key === key),
  );
});
/** What nobody holds and no longer has a week. */
const soon = computed(() => site.overview?.removals.sweptSoon ?? 0);
const firstSweep = computed(() =>
  site.overview?.removals.firstSweep ? readDay(site.overview.removals.firstSweep) : '',
);
const isReviewing = computed(() => site.overview?.lastImport?.state === 'reviewing');
const checking = computed(() =>
  site.compiling?.progress?.step.code === 'step.checking-pages' ? site.compiling : undefined,
);

function onKey(event: KeyboardEvent, row: SurveyItem | undefined): void {
  if (!row?.snag || !session.mayEdit) return;
  if (event.key === 'x') bench.value?.dismiss();
  else if (event.key === 'p' && row.snag.page !== null)
    runInBackground(router.push({ name: 'pages', params: { page: row.snag.page }, query: { point: '1' } }));
  else return;
  benchOpen.value = true;
  event.preventDefault();
}

function onEnter(): void {
  benchOpen.value = true;
  bench.value?.mend();
}
</script>

<template>
  <StationLayout v-model:bench-open="benchOpen" :bench-of="selected" :bench-label="say('surveyStation.whatCameIn')">
    <template #ledger>
      <div v-if="site.importing" class="reading">
        <h1 class="title-face">{{ say('surveyStation.readingTheSite') }}</h1>
        <JobProgress
          :job="site.importing"
          :waiting="say('surveyStation.waitingToBeRead')"
          :can-cancel="session.mayEdit"
          @cancel="site.cancel(site.importing.id)"
        />
      </div>
      <div v-if="site.overview?.files === 0 && !site.importing" class="reading">
        <template v-if="site.overview.lastImport?.error">
          <h1 class="title-face">
            {{ say('surveyStation.nothingCameInFrom', { fileName: site.overview.lastImport.fileName }) }}
          </h1>
          <p class="wrong" role="alert">{{ explainKept(site.overview.lastImport.error) }}</p>
        </template>
        <h1 v-else class="title-face">{{ say('surveyStation.nothingHasBeenBroughtIn') }}</h1>
        <BringIn v-if="session.mayEdit" :site="site.overview.id" @started="site.refresh()" />
      </div>
      <ReviewExport v-else-if="isReviewing" :key="site.overview?.lastImport?.id ?? ''" />
      <template v-else-if="survey">
        <LedgerHead v-model="search" :search-label="say('surveyStation.searchTheList')">
          <SegmentedChoice v-model="view" :label="say('surveyStation.whatToList')" :options="options" />
          <template #after
            ><button v-if="session.mayEdit" class="text-link" type="button" @click="bringing = true">
              {{ say('surveyStation.newerExport') }}
            </button></template
          >
        </LedgerHead>
        <AlertLines :alerts="site.overview?.watch.alerts ?? []" @go="goToWatch" />
        <p v-if="soon > 0" class="checking wait" role="status">
          {{ say('surveyStation.removedThingsGoForGood', { soon, firstSweep }) }}
          <RouterLink class="text-link" :to="{ name: 'pages', query: { show: 'removed' } }">{{
            say('surveyStation.lookAtThem', { soon })
          }}</RouterLink>
        </p>
        <p v-if="checking" class="checking quiet" role="status">
          {{
            say('surveyStation.checkingPagesOf', {
              done: checking.progress?.done ?? 0,
              total: checking.progress?.total ?? 0,
            })
          }}
        </p>
        <LedgerColumns v-bind="layout" />
        <LedgerList
          v-model="selected"
          :items="rows"
          :key-of="(row) => row.key"
          :row-height="39"
          :label="say('surveyStation.whatCameIn')"
          :is-heading="(row) => row.heading !== undefined"
          v-bind="view === 'pages' ? { depthOf: (row: SurveyItem) => row.depth } : {}"
          @pick="benchOpen = true"
          @enter="onEnter"
          @key="onKey"
        >
          <template #default="{ item: row }"><SurveyRow :row="row" :grid="layout.grid" /></template>
          <template #empty>
            <p class="empty">
              {{
                search !== ''
                  ? say('surveyStation.nothingInTheListHolds')
                  : site.overview?.snags.checking
                    ? say('surveyStation.theChecksAreStillRunning')
                    : view === 'must'
                      ? say('surveyStation.nothingMustBeFixedA')
                      : view === 'should'
                        ? say('surveyStation.nothingIsWorthALook')
                        : view === 'notes'
                          ? say('surveyStation.everythingCameInAsIt')
                          : say('surveyStation.thereIsNothingOfThis')
              }}
            </p>
          </template>
        </LedgerList>
      </template>
    </template>
    <template #bench>
      <BringIn
        v-if="bringing && site.overview"
        :site="site.overview.id"
        newer
        @started="((bringing = false), site.refresh())"
        @leave="bringing = false"
      />
      <template v-else-if="isReviewing">
        <h2 class="title-face">{{ say('surveyStation.untilYouApplyIt') }}</h2>
        <p class="quiet soon">
          {{ say('surveyStation.theSiteStandsOnThe') }}
        </p>
      </template>
      <SnagBench
        v-else-if="isSnags && item?.snag && snags"
        :key="item.key"
        ref="bench"
        :snag="item.snag"
        :kinds="snags.kinds"
        @done="site.refreshSnags()"
      />
      <SurveyBench v-else-if="survey" :survey="survey" :item="isSnags ? undefined : item" />
      <template v-else>
        <h2 class="title-face">{{ say('surveyStation.whatWillStandHere') }}</h2>
        <p class="quiet soon">
          {{ say('surveyStation.whatHasToBeFixed', { hasImporting: Boolean(site.importing) }) }}
        </p>
      </template>
    </template>
  </StationLayout>
</template>

<style scoped>
.reading {
  padding: 20px;
  max-width: 560px;
  display: grid;
  gap: 14px;
}

.checking {
  margin: 0;
  padding: 6px 20px;
  border-bottom: var(--line);
}
p.wait {
  color: var(--ochre-dark);
  background: var(--ochre-tint);
}
.soon {
  margin-top: 8px;
  line-height: 18px;
}
.empty {
  padding: 20px;
  color: var(--ink-5);
  margin: 0;
}
p {
  margin: 0;
}
</style>
