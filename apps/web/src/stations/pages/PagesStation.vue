<script setup lang="ts">
/** Pages: the tree, the menus and the touches, and the page that is worked on. */
import { computed, defineAsyncComponent } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { useSite } from '../../stores/site.ts';
import PointingView from './pointing/PointingView.vue';
import TreeView from './TreeView.vue';
import { usePages } from './pages.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';

const MenusView = defineAsyncComponent(() => import('./menus/MenusView.vue'));
const ReleasesView = defineAsyncComponent(() => import('./removals/ReleasesView.vue'));
const RemovedView = defineAsyncComponent(() => import('./removals/RemovedView.vue'));
const TouchesView = defineAsyncComponent(() => import('./TouchesView.vue'));

const route = useRoute();
const router = useRouter();
const tree = usePages();
const site = useSite();
const VIEWS = ['tree', 'menus', 'touches', 'removed', 'releases'] as const;
type View = (typeof VIEWS)[number];
const view = computed<View>({
  get: () => VIEWS.find((each) => each === route.query.show) ?? 'tree',
  set: (next) => runInBackground(router.replace({ query: next === 'tree' ? {} : { show: next } })),
});
const pointedPage = computed(() =>
  route.query.point === '1' && typeof route.params.page === 'string'
    ? tree.pages.value.find(({ id }) => id === route.params.page)
    : undefined,
);
const removals = computed(() => site.overview?.removals.all ?? 0);
const options = computed(() => [
  { value: 'tree' as const, label: say('pagesStation.inPlace') },
  { value: 'menus' as const, label: say('common.menus') },
  { value: 'touches' as const, label: say('pagesStation.touches') },
  {
    value: 'removed' as const,
    label:
      removals.value > 0 ? say('pagesStation.removed', { removals: removals.value }) : say('pagesStation.removed2'),
  },
  ...(site.overview?.live ? [{ value: 'releases' as const, label: say('pagesStation.inReleases') }] : []),
]);
const goBack = () => runInBackground(router.replace({ query: {} }));
</script>

<template>
  <PointingView
    v-if="pointedPage"
    :key="pointedPage.id"
    :page="pointedPage"
    :pages="tree.pages.value"
    :version="tree.version.value"
    @back="goBack"
  />
  <MenusView v-else-if="view === 'menus'" :pages="tree.pages.value" :removed="tree.removed.value"
    ><SegmentedChoice v-model="view" :label="say('pagesStation.whatToWorkOn')" :options="options"
  /></MenusView>
  <TouchesView v-else-if="view === 'touches'" :pages="tree.pages.value"
    ><SegmentedChoice v-model="view" :label="say('pagesStation.whatToWorkOn')" :options="options"
  /></TouchesView>
  <RemovedView v-else-if="view === 'removed'" :pages="tree.pages.value" :version="tree.version.value"
    ><SegmentedChoice v-model="view" :label="say('pagesStation.whatToWorkOn')" :options="options"
  /></RemovedView>
  <ReleasesView v-else-if="view === 'releases'" :pages="tree.pages.value" :version="tree.version.value"
    ><SegmentedChoice v-model="view" :label="say('pagesStation.whatToWorkOn')" :options="options"
  /></ReleasesView>
  <TreeView v-else :tree="tree"
    ><SegmentedChoice v-model="view" :label="say('pagesStation.whatToWorkOn')" :options="options"
  /></TreeView>
</template>
