<script setup lang="ts">
/** Survey: what came in. */
import { importsApi, type Survey } from '@fastigium/contracts/api/imports';
import { computed, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { call } from '../../api/client.ts';
import BringIn from '../../app/BringIn.vue';
import JobProgress from '../../components/JobProgress.vue';
import LedgerColumns from '../../components/LedgerColumns.vue';
import LedgerHead from '../../components/LedgerHead.vue';
import LedgerList from '../../components/LedgerList.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import StationLayout from '../../components/StationLayout.vue';
import { figure } from '../../logic/format.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import SurveyBench from './SurveyBench.vue';
import SurveyRow from './SurveyRow.vue';
import { rowsOf, VIEWS, type SurveyItem, type SurveyView } from './surveyRows.ts';

const site = useSite();
const session = useSession();
const notices = useNotices();
const route = useRoute();
const router = useRouter();
const survey = shallowRef<Survey>();
const search = ref('');
const selected = ref<string>();
const benchOpen = ref(false);

watch([() => site.id, () => site.tick], async ([id]) => {
  if (id === undefined || site.overview?.files === 0) {
    survey.value = undefined;
    return;
  }
  try {
    survey.value = await call(importsApi.survey, { params: { site: id } });
  } catch (error) {
    notices.problem(error);
  }
}, { immediate: true });

const view = computed<SurveyView>({
  get: () => VIEWS.find((each) => each === route.query.show) ?? 'pages',
  set: (next) => void router.replace({ query: next === 'pages' ? {} : { show: next } }),
});
const counts = computed(() => ({
  pages: survey.value?.pages.length ?? 0, assets: survey.value?.assets.length ?? 0, links: survey.value?.links.dead.length ?? 0, notes: survey.value?.notes.length ?? 0,
}));
const options = computed(() => [
  { value: 'pages' as const, label: `Pages ${figure(counts.value.pages)}` },
  { value: 'assets' as const, label: `Assets ${figure(counts.value.assets)}` },
  { value: 'links' as const, label: `Dead links ${figure(counts.value.links)}` },
  { value: 'notes' as const, label: `Notes on the import ${figure(counts.value.notes)}` },
]);
const layout = computed(() => rowsOf(view.value).layout);
const rows = computed<SurveyItem[]>(() => {
  if (!survey.value) return [];
  const all = rowsOf(view.value).items(survey.value);
  const wanted = search.value.toLowerCase();
  return wanted === '' ? all : all.filter((row) => row.text.includes(wanted));
});
const item = computed(() => rows.value.find(({ key }) => key === selected.value));
watch(rows, (now) => {
  if (!now.some(({ key }) => key === selected.value)) selected.value = now[0]?.key;
}, { immediate: true });
</script>

<template>
  <StationLayout v-model:bench-open="benchOpen" bench-label="What came in">
    <template #ledger>
      <div v-if="site.importing" class="reading">
        <h1 class="title-face">Reading the site</h1>
        <JobProgress :job="site.importing" waiting="Waiting to be read" :can-cancel="session.mayEdit" @cancel="site.cancel(site.importing.id)" />
      </div>
      <div v-if="site.overview?.files === 0 && !site.importing" class="reading">
        <template v-if="site.overview.lastImport?.error">
          <h1 class="title-face">Nothing came in from {{ site.overview.lastImport.fileName }}</h1>
          <p class="wrong" role="alert">{{ site.overview.lastImport.error }}</p>
        </template>
        <h1 v-else class="title-face">Nothing has been brought in yet</h1>
        <BringIn v-if="session.mayEdit" :site="site.overview.id" @started="site.refresh()" />
      </div>
      <template v-else-if="survey">
        <LedgerHead v-model="search" search-label="Search the list">
          <SegmentedChoice v-model="view" label="What to list" :options="options" />
        </LedgerHead>
        <LedgerColumns v-bind="layout" />
        <LedgerList
          v-model="selected" :items="rows" :key-of="(row) => row.key" :row-height="40" label="What came in"
          v-bind="view === 'pages' ? { depthOf: (row: SurveyItem) => row.depth } : {}" @pick="benchOpen = true" @enter="benchOpen = true"
        >
          <template #default="{ item: row }"><SurveyRow :row="row" :grid="layout.grid" /></template>
          <template #empty>
            <p class="empty">{{ search !== '' ? 'Nothing in the list holds these letters.' : view === 'links' ? 'No dead link: every link inside the site leads to a file.' : view === 'notes' ? 'Everything came in as it was; there is nothing to note.' : 'Nothing of this kind came in.' }}</p>
          </template>
        </LedgerList>
      </template>
    </template>
    <template #bench>
      <SurveyBench v-if="survey" :survey="survey" :item="item" @show="view = $event" />
      <template v-else>
        <h2 class="title-face">What will stand here</h2>
        <p class="quiet soon">The pages as a tree with their titles and addresses, the assets with their sizes, every link that leads nowhere with its place in the source, and notes on files that could not be taken as they are. {{ site.importing ? 'You can leave this page; reading goes on.' : '' }}</p>
      </template>
    </template>
  </StationLayout>
</template>

<style scoped>
.reading { padding: 20px; max-width: 560px; display: grid; gap: 14px; }

.soon { margin-top: 8px; line-height: 18px; }
.empty { padding: 20px; color: var(--ink-5); margin: 0; }
p { margin: 0; }
</style>
