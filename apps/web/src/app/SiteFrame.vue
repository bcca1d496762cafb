<script setup lang="ts">
/** The frame around every station: lintel, frieze, the station itself, sill; and the keys that hold everywhere. */
import { defineAsyncComponent, onBeforeUnmount, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { deriveBays, STATION_KEYS, type StationName } from '../logic/bays.ts';
import { useNotices } from '../stores/notices.ts';
import { useSession } from '../stores/session.ts';
import { useSite } from '../stores/site.ts';
import AppFrieze from './AppFrieze.vue';
import AppLintel from './AppLintel.vue';
import AppSill from './AppSill.vue';
import CommandFinder from './CommandFinder.vue';
import ToldNotices from './ToldNotices.vue';
import { useLeader, useShortcuts } from '../components/shortcuts.ts';
import { runInBackground } from '../stores/background.ts';
import { say } from './words.ts';
import '../words/ofSites.ts';

const HistoryPanel = defineAsyncComponent(() => import('./HistoryPanel.vue'));
const StandInPanel = defineAsyncComponent(() => import('./StandInPanel.vue'));
const KeyList = defineAsyncComponent(() => import('./KeyList.vue'));

const props = defineProps<{ site: string }>();
const store = useSite();
const session = useSession();
const notices = useNotices();
const router = useRouter();
const finding = ref(false);
const listingKeys = ref(false);
const showingHistory = ref(false);
const playing = ref(false);

watch(
  () => props.site,
  async (id) => {
    try {
      await store.open(id);
    } catch (error) {
      notices.problem(error);
      await router.replace({ name: 'sites' });
    }
  },
  { immediate: true },
);
watch(
  () => store.overview?.name,
  (name) => (document.title = name === undefined ? 'Fastigium' : say('siteFrame.fastigium', { name })),
);
onBeforeUnmount(() => {
  store.close();
  document.title = 'Fastigium';
});

function goTo(station: StationName): boolean {
  const bay = store.overview && deriveBays(store.overview, store.changes).find((each) => each.station === station);
  if (!bay) return false;
  if (bay.isOpen) runInBackground(router.push({ name: station }));
  else notices.done(say('siteFrame.isNotThereYet', { title: bay.title }));
  return true;
}

const stationOfKey = new Map(Object.entries(STATION_KEYS).map(([station, key]) => [key, station as StationName]));
useLeader('g', (key) => {
  const station = stationOfKey.get(key);
  return station !== undefined && goTo(station);
});

function step(direction: 'back' | 'forward'): void {
  if (session.mayEdit) runInBackground(store.decide({ kind: 'step', direction }));
}

useShortcuts(() => [
  { key: 'k', ctrl: true, always: true, run: () => (finding.value = true) },
  { key: '?', run: () => (listingKeys.value = true) },
  { key: 'l', run: () => (showingHistory.value = true) },
  { key: 'z', ctrl: true, run: () => step('back') },
  { key: 'z', ctrl: true, shift: true, run: () => step('forward') },
  { key: 'y', ctrl: true, run: () => step('forward') },
]);
</script>

<template>
  <div class="frame">
    <AppLintel :site="store.overview" @find="finding = true" @stand-ins="playing = true" />
    <template v-if="store.overview">
      <AppFrieze />
      <ToldNotices />
      <main class="middle"><RouterView /></main>
      <AppSill @history="showingHistory = true" />
    </template>
    <main v-else class="middle opening" role="status">{{ say('siteFrame.openingTheSite') }}</main>
    <CommandFinder
      v-if="finding"
      @close="finding = false"
      @go="goTo"
      @step="step"
      @keys="listingKeys = true"
      @history="showingHistory = true"
      @stand-ins="playing = true"
    />
    <HistoryPanel v-if="showingHistory" @close="showingHistory = false" />
    <StandInPanel v-if="playing" @close="playing = false" />
    <KeyList v-if="listingKeys" @close="listingKeys = false" />
  </div>
</template>

<style scoped>
.frame {
  height: 100dvh;
  display: flex;
  flex-direction: column;
  overflow: hidden;
}
.middle {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
.opening {
  padding: 20px;
  color: var(--ink-5);
}
</style>
