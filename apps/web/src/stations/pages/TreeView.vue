<script setup lang="ts">
/** The tree of pages, worked on by drag and by keyboard. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import LedgerColumns from '../../components/LedgerColumns.vue';
import LedgerHead from '../../components/LedgerHead.vue';
import LedgerList from '../../components/LedgerList.vue';
import StationLayout from '../../components/StationLayout.vue';
import { mayTakeFocus } from '../../logic/focus.ts';
import { usePageInAddress } from '../../logic/pageInAddress.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import AddToTree from './AddToTree.vue';
import AddressStyles from './AddressStyles.vue';
import NodeBench from './NodeBench.vue';
import PageBench from './PageBench.vue';
import PageTreeRow from './PageTreeRow.vue';
import { dropped, stepped } from './placing.ts';
import type { Pages } from './pages.ts';

const props = defineProps<{ tree: Pages }>();
const GRID = 'minmax(0, 5fr) minmax(0, 4fr) minmax(0, 3fr) 46px';
const site = useSite();
const session = useSession();
const router = useRouter();
const search = ref('');
const benchOpen = ref(false);
const doing = ref<'add' | 'styles'>();
const bench = ref<InstanceType<typeof PageBench>>();
const list = ref<{ focus(): void }>();

const pages = computed(() => props.tree.pages.value);
const rows = computed(() => {
  const wanted = search.value.toLowerCase();
  return wanted === '' ? pages.value : pages.value.filter(({ title, address }) => `${title} ${address}`.toLowerCase().includes(wanted));
});
const selected = usePageInAddress('pages', () => rows.value[0]?.id, () => { doing.value = undefined; });
const page = computed(() => pages.value.find(({ id }) => id === selected.value));
const isLive = computed(() => site.overview?.live != null);

function work(): void {
  benchOpen.value = true;
  bench.value?.editTitle();
}

function onKey(event: KeyboardEvent, row: PageRow | undefined): void {
  if (!row || !session.mayEdit) return;
  if (event.altKey) {
    const place = stepped(pages.value, row, event.key);
    if (!place) return;
    void site.decide({ kind: 'place', node: row.id, ...place, keepAddress: false });
  } else if (event.key === 'e') work();
  else if (event.key === 'a') doing.value = 'add';
  else if (row.kind !== 'page') return;
  else if (event.key === 'h') void site.decide({ kind: 'home', page: row.id });
  else if (event.key === 'n') void site.decide({ kind: 'ready', page: row.id, ready: !row.isReady });
  else if (event.key === 'm') void site.decide({ kind: 'in-menus', page: row.id, shown: !row.inMenus });
  else if (event.key === 'p') point(row);
  else return;
  event.preventDefault();
}

function point(row: PageRow): void {
  void router.push({ name: 'pages', params: { page: row.id }, query: { point: '1' } });
}

function onDrop(item: PageRow, onto: PageRow, where: 'before' | 'inside' | 'after'): void {
  const place = dropped(pages.value, item, onto, where);
  if (place) void site.decide({ kind: 'place', node: item.id, ...place, keepAddress: false });
}

async function show(made: string | undefined): Promise<void> {
  doing.value = undefined;
  if (made) await router.replace({ name: 'pages', params: { page: made } });
}
</script>

<template>
  <StationLayout v-model:bench-open="benchOpen" :bench-of="selected" bench-label="The selected page">
    <template #ledger>
      <LedgerHead v-model="search" search-label="Search pages">
        <slot />
        <template #after>
          <template v-if="session.mayEdit">
            <button class="text-link" type="button" @click="doing = 'styles', benchOpen = true">Addresses</button>
            <v-btn height="28" @click="doing = 'add', benchOpen = true">Add</v-btn>
          </template>
        </template>
      </LedgerHead>
      <LedgerColumns :grid="GRID" :columns="[{ label: 'Page' }, { label: 'Address' }, { label: 'Where it shows' }, { label: '' }]" />
      <LedgerList
        ref="list" v-model="selected" :items="rows" :key-of="(row) => row.id" :row-height="39" label="Pages" :depth-of="(row) => row.depth" :can-drag="session.mayEdit && search === ''"
        @pick="benchOpen = true" @enter="work" @key="onKey" @drop="onDrop"
      >
        <template #default="{ item }"><PageTreeRow :page="item" :grid="GRID" :flat="search !== ''" :is-live="isLive" /></template>
        <template #empty><p class="empty">No page holds these letters in its title or address.</p></template>
      </LedgerList>
    </template>
    <template #bench>
      <AddToTree v-if="doing === 'add'" :pages="pages" :beside="page" @made="show" @leave="doing = undefined" />
      <AddressStyles v-else-if="doing === 'styles'" :style="tree.style.value" @leave="doing = undefined" />
      <template v-else-if="page">
        <PageBench v-if="page.kind === 'page'" :key="page.id" ref="bench" :page="page" :pages="pages" :version="tree.version.value" @back="mayTakeFocus() && list?.focus()" @point="point(page)" @made="show" />
        <NodeBench v-else :key="page.id" :node="page" />
      </template>
    </template>
  </StationLayout>
</template>

<style scoped>
.empty { padding: 20px; margin: 0; color: var(--ink-5); }
</style>
