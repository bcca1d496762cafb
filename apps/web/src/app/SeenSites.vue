<script setup lang="ts">
/** Which sites somebody sees: all of the team, or those that are marked. */
import type { SiteSummary } from '@fastigium/contracts/api/sites';
import SegmentedChoice from '../components/SegmentedChoice.vue';
import { say } from './words.ts';

const props = defineProps<{ sites: readonly SiteSummary[]; onlySome?: boolean }>();
/** Null: all, and those to come. */
const seen = defineModel<readonly string[] | null>({ required: true });

const setAll = (way: 'all' | 'some') => (seen.value = way === 'all' ? null : props.sites.map(({ id }) => id));
const mark = (site: string, isSeen: boolean) =>
  (seen.value = isSeen ? [...(seen.value ?? []), site] : (seen.value ?? []).filter((each) => each !== site));
</script>

<template>
  <div class="seen">
    <SegmentedChoice
      v-if="!onlySome"
      :model-value="seen === null ? 'all' : 'some'"
      :label="say('seenSites.sees')"
      :options="[
        { value: 'all', label: say('seenSites.allSitesAlsoThoseTo') },
        { value: 'some', label: say('seenSites.onlyThese') },
      ]"
      @update:model-value="setAll"
    />
    <template v-if="seen !== null || onlySome">
      <label v-for="site in sites" :key="site.id">
        <input
          type="checkbox"
          :checked="seen?.includes(site.id) ?? false"
          @change="mark(site.id, ($event.target as HTMLInputElement).checked)"
        />
        <span class="one-line">{{ site.name }}</span>
        <span class="address quiet one-line">{{ site.answersAt }}</span>
      </label>
      <p v-if="sites.length === 0" class="quiet">{{ say('seenSites.thereIsNoSiteYet') }}</p>
    </template>
  </div>
</template>

<style scoped>
.seen {
  display: grid;
  gap: 8px;
}
label {
  display: grid;
  grid-template-columns: auto minmax(0, auto) minmax(0, 1fr);
  gap: 8px;
  align-items: baseline;
}
</style>
