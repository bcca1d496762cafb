<script setup lang="ts">
/** Metadata: every page in a table, what holds for the whole site, and the languages. */
import { computed, defineAsyncComponent } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import PagesTable from './PagesTable.vue';
import { useMetadata } from './metadata.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';

const SiteSettings = defineAsyncComponent(() => import('./site/SiteSettings.vue'));
const LanguagesView = defineAsyncComponent(() => import('./LanguagesView.vue'));

const route = useRoute();
const router = useRouter();
const metadata = useMetadata();
const VIEWS = ['pages', 'site', 'languages'] as const;
type View = (typeof VIEWS)[number];
const view = computed<View>({
  get: () => VIEWS.find((each) => each === route.query.show) ?? 'pages',
  set: (next) => runInBackground(router.replace({ query: next === 'pages' ? {} : { show: next } })),
});
const options = [
  { value: 'pages' as const, label: say('metadataStation.pageByPage') },
  { value: 'site' as const, label: say('metadataStation.wholeSite') },
  { value: 'languages' as const, label: say('metadataStation.languages') },
];
</script>

<template>
  <template v-if="metadata">
    <SiteSettings v-if="view === 'site'" :metadata="metadata"
      ><SegmentedChoice v-model="view" :label="say('metadataStation.whatToWorkOn')" :options="options"
    /></SiteSettings>
    <LanguagesView v-else-if="view === 'languages'" :metadata="metadata"
      ><SegmentedChoice v-model="view" :label="say('metadataStation.whatToWorkOn')" :options="options"
    /></LanguagesView>
    <PagesTable v-else :metadata="metadata"
      ><SegmentedChoice v-model="view" :label="say('metadataStation.whatToWorkOn')" :options="options"
    /></PagesTable>
  </template>
</template>
