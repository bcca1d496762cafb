<script setup lang="ts">
/** Publish: what visitors will notice, what will be sent, the releases. */
import { releasesApi, type Change, type Release } from '@fastigium/contracts/api/releases';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../../api/client.ts';
import LedgerList from '../../components/LedgerList.vue';
import StationLayout from '../../components/StationLayout.vue';
import { count } from '../../logic/format.ts';
import { useReadAgain } from '../../stores/readAgain.ts';
import { useSite } from '../../stores/site.ts';
import ChangeEvidence from './ChangeEvidence.vue';
import ChangeLine from './ChangeLine.vue';
import { grouped, isHeading, type LedgerItem } from './grouped.ts';
import ReleaseBench from './ReleaseBench.vue';

const site = useSite();
const releases = shallowRef<Release[]>([]);
const selected = ref<string>();
const benchOpen = ref(false);

useReadAgain(async (id) => {
  releases.value = await call(releasesApi.list, { params: { site: id } });
});

const items = computed<LedgerItem[]>(() => grouped(site.changes?.changes ?? []));
const change = computed<Change | undefined>(() => site.changes?.changes.find(({ key }) => key === selected.value));
watch(items, (now) => {
  if (!now.some((item) => item.key === selected.value)) selected.value = now.find((item) => !isHeading(item))?.key;
}, { immediate: true });
const title = computed(() => {
  if (!site.changes) return 'Reckoning what visitors will notice …';
  if (site.changes.sinceRelease === null) return 'What visitors will notice: the site itself, for the first time';
  const n = site.changes.changes.length;
  return n === 0 ? `Live and draft are the same: release ${site.changes.sinceRelease}` : `What visitors will notice: ${count(n, 'change')} since release ${site.changes.sinceRelease}`;
});
</script>

<template>
  <StationLayout v-model:bench-open="benchOpen" bench-label="The next release">
    <template #ledger>
      <div class="head">
        <h1 class="strong">{{ title }}</h1>
        <button class="text-link to-bench" type="button" @click="benchOpen = true">To the release</button>
      </div>
      <LedgerList v-model="selected" :items="items" :key-of="(item) => item.key" :is-heading="isHeading" :row-height="38" label="Changes" @pick="benchOpen = true" @enter="benchOpen = true">
        <template #default="{ item }"><ChangeLine :item="item" /></template>
        <template #empty>
          <p class="empty">{{ site.compiling ? 'The draft is being compiled.' : site.changes ? 'Change something in Pages or Redirects; it shows here before any visitor sees it.' : '' }}</p>
        </template>
      </LedgerList>
      <ChangeEvidence v-if="change" :key="change.key" :change="change" />
    </template>
    <template #bench><ReleaseBench :releases="releases" /></template>
  </StationLayout>
</template>

<style scoped>
.head { display: flex; align-items: center; min-height: 46px; padding-inline: 20px; border-bottom: var(--line); gap: 16px; }
h1 { font-size: 14px; margin: 0; flex: 1; }
.to-bench { display: none; }
.empty { padding: 20px; margin: 0; color: var(--ink-5); }
@media (max-width: 999px) { .to-bench { display: block; } }
</style>
