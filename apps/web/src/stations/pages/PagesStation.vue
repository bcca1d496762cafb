<script setup lang="ts">
/** Pages: the tree, and the page that is worked on. */
import { draftApi, type PageRow } from '@fastigium/contracts/api/draft';
import { computed, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { call } from '../../api/client.ts';
import LedgerColumns from '../../components/LedgerColumns.vue';
import LedgerHead from '../../components/LedgerHead.vue';
import LedgerList from '../../components/LedgerList.vue';
import StationLayout from '../../components/StationLayout.vue';
import { count } from '../../logic/format.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSession } from '../../stores/session.ts';
import { mayTakeFocus } from '../../logic/focus.ts';
import { useSite } from '../../stores/site.ts';
import PageBench from './PageBench.vue';
import PageTreeRow from './PageTreeRow.vue';

const GRID = 'minmax(0, 5fr) minmax(0, 4fr) minmax(0, 2fr)';
const site = useSite();
const session = useSession();
const notices = useNotices();
const route = useRoute();
const router = useRouter();
const pages = shallowRef<PageRow[]>([]);
const version = ref(0);
const search = ref('');
const benchOpen = ref(false);
const bench = ref<InstanceType<typeof PageBench>>();
const list = ref<{ focus(): void }>();

watch([() => site.id, () => site.tick], async ([id]) => {
  if (id === undefined) return;
  try {
    const answer = await call(draftApi.pages, { params: { site: id } });
    pages.value = answer.pages;
    version.value = answer.version;
  } catch (error) {
    notices.problem(error);
  }
}, { immediate: true });

const rows = computed(() => {
  const wanted = search.value.toLowerCase();
  return wanted === '' ? pages.value : pages.value.filter(({ title, address }) => `${title} ${address}`.toLowerCase().includes(wanted));
});
const selected = computed<string | undefined>({
  get: () => (typeof route.params.page === 'string' && route.params.page !== '' ? route.params.page : rows.value[0]?.id),
  set: (page) => void router.replace({ name: 'pages', params: { page } }),
});
const page = computed(() => pages.value.find(({ id }) => id === selected.value));
const changed = computed(() => pages.value.filter(({ state }) => state !== 'live').length);
const isLive = computed(() => site.overview?.live != null);

function work(): void {
  benchOpen.value = true;
  bench.value?.editTitle();
}

function onKey(event: KeyboardEvent, row: PageRow | undefined): void {
  if (!row || !session.mayEdit) return;
  if (event.key === 'e') work();
  else if (event.key === 'h') void useAsHome(row);
  else return;
  event.preventDefault();
}

async function useAsHome(row: PageRow): Promise<void> {
  await site.decide({ kind: 'home', page: row.id });
}
</script>

<template>
  <StationLayout v-model:bench-open="benchOpen" bench-label="The selected page">
    <template #ledger>
      <LedgerHead v-model="search" search-label="Search pages">
        <span class="strong">{{ count(pages.length, 'page') }} in their tree</span>
        <span class="quiet">{{ isLive ? (changed === 0 ? 'all as they are live' : `${changed} differ from live`) : 'none live yet' }}</span>
      </LedgerHead>
      <LedgerColumns :grid="GRID" :columns="[{ label: 'Page' }, { label: 'Address' }, { label: 'How it stands' }]" />
      <LedgerList
        ref="list" v-model="selected" :items="rows" :key-of="(row) => row.id" :row-height="39" label="Pages" :depth-of="(row) => row.depth"
        @pick="benchOpen = true" @enter="work" @key="onKey"
      >
        <template #default="{ item }"><PageTreeRow :page="item" :grid="GRID" :flat="search !== ''" :is-live="isLive" /></template>
        <template #empty><p class="empty">No page holds these letters in its title or address.</p></template>
      </LedgerList>
    </template>
    <template #bench>
      <PageBench v-if="page" :key="page.id" ref="bench" :page="page" :version="version" @home="useAsHome(page)" @back="mayTakeFocus() && list?.focus()" />
    </template>
  </StationLayout>
</template>

<style scoped>
.empty { padding: 20px; margin: 0; color: var(--ink-5); }
</style>
