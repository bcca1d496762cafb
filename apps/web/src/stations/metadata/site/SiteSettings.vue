<script setup lang="ts">
/** What holds for the whole site, set once. */
import type { Metadata } from '@fastigium/contracts/api/metadata';
import { computed, ref } from 'vue';
import KeystoneMark from '../../../components/KeystoneMark.vue';
import LedgerColumns from '../../../components/LedgerColumns.vue';
import LedgerHead from '../../../components/LedgerHead.vue';
import LedgerList from '../../../components/LedgerList.vue';
import StationLayout from '../../../components/StationLayout.vue';
import { mayTakeFocus } from '../../../logic/focus.ts';
import SettingBench from './SettingBench.vue';
import { findBranchSettings, SITE_SETTINGS, saySettingStanding, type SiteSetting } from './settings.ts';
import { say } from '../words.ts';

const props = defineProps<{ metadata: Metadata }>();
const GRID = 'minmax(0, 4fr) minmax(0, 6fr) minmax(0, 3fr)';
const search = ref('');
const selected = ref<string>('name');
const benchOpen = ref(false);
const bench = ref<InstanceType<typeof SettingBench>>();
const list = ref<{ focus(): void }>();

type Row = { readonly key: string; readonly heading: string } | { readonly key: string; readonly setting: SiteSetting };
const rows = computed<Row[]>(() => {
  const wanted = search.value.toLowerCase();
  const found = SITE_SETTINGS.filter(({ label, words }) => `${label} ${words}`.toLowerCase().includes(wanted));
  return [...new Set(found.map(({ group }) => group))].flatMap((group): Row[] => [
    { key: say('siteSettings.group', { group }), heading: group },
    ...found.filter((each) => each.group === group).map((each) => ({ key: each.name, setting: each })),
  ]);
});
const current = computed(() => SITE_SETTINGS.find(({ name }) => name === selected.value));
const standing = (setting: SiteSetting) => saySettingStanding(props.metadata, setting);
const isHeading = (row: Row) => 'heading' in row;
function startWork(): void {
  benchOpen.value = true;
  bench.value?.focus();
}
</script>

<template>
  <StationLayout
    v-model:bench-open="benchOpen"
    :bench-of="selected"
    :bench-label="say('siteSettings.theSelectedSetting')"
  >
    <template #ledger>
      <LedgerHead v-model="search" :search-label="say('siteSettings.searchSettings')"><slot /></LedgerHead>
      <LedgerColumns
        :grid="GRID"
        :columns="[
          { label: say('siteSettings.forTheWholeSite') },
          { label: say('siteSettings.setTo') },
          { label: say('siteSettings.elsewhere') },
        ]"
      />
      <LedgerList
        ref="list"
        v-model="selected"
        :items="rows"
        :key-of="(row) => row.key"
        :row-height="38"
        :label="say('siteSettings.settingsOfTheWholeSite')"
        :is-heading="isHeading"
        @pick="benchOpen = true"
        @enter="startWork"
      >
        <template #default="{ item }">
          <span v-if="'heading' in item" class="strong quiet">{{ item.heading }}</span>
          <div v-else class="cells" :style="{ gridTemplateColumns: GRID }">
            <span class="one-line"
              ><KeystoneMark class="mark" :mark="standing(item.setting).isSet ? 'verdigris' : 'dashed'" />{{
                item.setting.label
              }}</span
            >
            <span
              class="one-line"
              :class="{ quiet: !standing(item.setting).isSet }"
              :title="standing(item.setting).words"
              >{{ standing(item.setting).words }}</span
            >
            <span class="quiet one-line">{{
              findBranchSettings(metadata, item.setting.name).length > 0
                ? say('siteSettings.otherwiseInBranches', {
                    metadata: findBranchSettings(metadata, item.setting.name).length,
                  })
                : ''
            }}</span>
          </div>
        </template>
        <template #empty
          ><p class="empty">{{ say('siteSettings.noSettingIsCalledLike') }}</p></template
        >
      </LedgerList>
    </template>
    <template #bench
      ><SettingBench
        v-if="current"
        :key="current.name"
        ref="bench"
        :setting="current"
        :metadata="metadata"
        @back="mayTakeFocus() && list?.focus()"
    /></template>
  </StationLayout>
</template>

<style scoped>
.cells {
  display: grid;
  gap: 16px;
  align-items: center;
}
.mark {
  margin-inline-end: 8px;
  vertical-align: -1px;
}
.empty {
  padding: 20px;
  margin: 0;
  color: var(--ink-5);
}
</style>
