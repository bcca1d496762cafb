<script setup lang="ts">
/** The tree of pages, worked on by drag and by keyboard. */
import type { DecisionRequest, PageRow, RemovedRow } from '@fastigium/contracts/api/draft';
import { removalsApi } from '@fastigium/contracts/api/removals';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import LedgerColumns from '../../components/LedgerColumns.vue';
import LedgerHead from '../../components/LedgerHead.vue';
import LedgerList from '../../components/LedgerList.vue';
import StationLayout from '../../components/StationLayout.vue';
import { call } from '../../api/client.ts';
import { useNotices } from '../../stores/notices.ts';
import { mayTakeFocus } from '../../logic/focus.ts';
import { dayOf } from '../../logic/format.ts';
import { usePageInAddress } from '../../logic/pageInAddress.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import RemovePanel from '../shared/RemovePanel.vue';
import AddToTree from './AddToTree.vue';
import AddressStyles from './AddressStyles.vue';
import HomeChoice from './HomeChoice.vue';
import NodeBench from './NodeBench.vue';
import PageBench from './PageBench.vue';
import PageTreeRow from './PageTreeRow.vue';
import { dropped, stepped } from './placing.ts';
import type { Pages } from './pages.ts';
import { inPlace, isRemoved, type TreeEntry } from './removals/inPlace.ts';
import RemovedInTree from './removals/RemovedInTree.vue';
import RemovedSwitch from './removals/RemovedSwitch.vue';
import RemovedTreeRow from './removals/RemovedTreeRow.vue';
import { useShowsRemoved } from './removals/showsRemoved.ts';

const props = defineProps<{ tree: Pages }>();
const GRID = 'minmax(0, 5fr) minmax(0, 4fr) minmax(0, 3fr) 46px';
const site = useSite();
const session = useSession();
const notices = useNotices();
const router = useRouter();
const search = ref('');
const benchOpen = ref(false);
const doing = ref<'add' | 'styles' | 'remove' | 'home'>();
const showsRemoved = useShowsRemoved();
const bench = ref<InstanceType<typeof PageBench>>();
const list = ref<{ focus(): void }>();
const removedBench = ref<InstanceType<typeof RemovedInTree>>();

const pages = computed(() => props.tree.pages.value);
const rows = computed(() => {
  const wanted = search.value.toLowerCase();
  const all = showsRemoved.value ? inPlace(pages.value, props.tree.removed.value) : pages.value;
  return wanted === '' ? all : all.filter(({ title, address }) => `${title} ${address}`.toLowerCase().includes(wanted));
});
const selected = usePageInAddress(
  'pages',
  () => rows.value[0]?.id,
  () => {
    doing.value = undefined;
  },
);
const chosen = computed(
  () => rows.value.find(({ id }) => id === selected.value) ?? pages.value.find(({ id }) => id === selected.value),
);
const page = computed(() => (chosen.value && !isRemoved(chosen.value) ? chosen.value : undefined));
const removed = computed(() => (chosen.value && isRemoved(chosen.value) ? chosen.value : undefined));
const firstUntil = computed(() => {
  const [first] = props.tree.removed.value.flatMap(({ keptUntil }) => keptUntil ?? []).sort();
  return first === undefined ? undefined : dayOf(first);
});
const isLive = computed(() => site.overview?.live != null);

function work(): void {
  benchOpen.value = true;
  bench.value?.editTitle();
}

function onKey(event: KeyboardEvent, row: TreeEntry | undefined): void {
  if (!row || !session.mayEdit) return;
  if (isRemoved(row)) {
    if (event.key !== 'b' || event.altKey) return;
    event.preventDefault();
    void removedBench.value?.putBack();
    return;
  }
  if (event.altKey) {
    const { id } = row;
    const { key } = event;
    if (!stepped(pages.value, row, key) && !site.isBusy) return;
    // Several steps in a row each go on from where the one before put it.
    void site.decide(() => {
      const now = pages.value.find((each) => each.id === id);
      const place = now && stepped(pages.value, now, key);
      return place && { kind: 'place', node: id, ...place, keepAddress: false };
    });
  } else if (event.key === 'e') work();
  else if (event.key === 'a') doing.value = 'add';
  else if (event.key === 'Delete') [doing.value, benchOpen.value] = ['remove', true];
  else if (row.kind !== 'page') return;
  else if (event.key === 'h') {
    if (row.isReady && !row.isHome) [doing.value, benchOpen.value] = ['home', true];
  } else if (event.key === 'n') toggle(row.id, (now) => ({ kind: 'ready', page: now.id, ready: !now.isReady }));
  else if (event.key === 'm') toggle(row.id, (now) => ({ kind: 'in-menus', page: now.id, shown: !now.inMenus }));
  else if (event.key === 'p') point(row);
  else return;
  event.preventDefault();
}

/** Turns over what is shown when its turn comes: pressed twice, it is as it was. */
function toggle(id: string, turned: (now: PageRow) => DecisionRequest): void {
  void site.decide(() => {
    const now = pages.value.find((each) => each.id === id);
    return now && turned(now);
  });
}

function point(row: PageRow): void {
  void router.push({ name: 'pages', params: { page: row.id }, query: { point: '1' } });
}

function onDrop(item: TreeEntry, onto: TreeEntry, where: 'before' | 'inside' | 'after'): void {
  // What is removed keeps its place; the others are put down beside those that stand.
  if (isRemoved(item) || isRemoved(onto)) return;
  const [node, beside] = [item.id, onto.id];
  void site.decide(() => {
    const [moved, still] = [node, beside].map((id) => pages.value.find((each) => each.id === id));
    const place = moved && still && dropped(pages.value, moved, still, where);
    return place && { kind: 'place', node, ...place, keepAddress: false };
  });
}

/** At once where nothing has to be asked; the bench asks where somebody else has its address, or the page above is away. */
async function putBack(row: RemovedRow): Promise<void> {
  selected.value = row.id;
  benchOpen.value = true;
  if (site.id === undefined) return;
  const things = [{ of: row.removal }];
  try {
    const { taken, parentOut } = await call(removalsApi.previewPutBack, {
      params: { site: site.id },
      body: { things, where: 'in-place', taken: 'stop' },
    });
    if (taken.length === 0 && parentOut === null && isRoot(row))
      await site.decide({ kind: 'put-back', things, where: 'in-place', taken: 'stop' });
  } catch (error) {
    notices.problem(error);
  }
}

/** One of several that went together can come back alone or with all of them: the bench asks which. */
const isRoot = (row: RemovedRow) =>
  !props.tree.removed.value.some(({ id, removal }) => id === row.parent && removal === row.removal);

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
          <RemovedSwitch
            :removed="tree.removed.value.length"
            v-bind="
              firstUntil ? { hint: `Removed rows stay in their place; the first goes for good on ${firstUntil}` } : {}
            "
          />
          <template v-if="session.mayEdit">
            <button class="text-link" type="button" @click="((doing = 'styles'), (benchOpen = true))">Addresses</button>
            <v-btn height="28" @click="((doing = 'add'), (benchOpen = true))">Add</v-btn>
          </template>
        </template>
      </LedgerHead>
      <LedgerColumns
        :grid="GRID"
        :columns="[{ label: 'Page' }, { label: 'Address' }, { label: 'Where it shows' }, { label: '' }]"
      />
      <LedgerList
        ref="list"
        v-model="selected"
        :items="rows"
        :key-of="(row) => row.id"
        :row-height="39"
        label="Pages"
        :depth-of="(row) => row.depth"
        :can-drag="session.mayEdit && search === ''"
        @pick="benchOpen = true"
        @enter="work"
        @key="onKey"
        @drop="onDrop"
      >
        <template #default="{ item }">
          <RemovedTreeRow v-if="isRemoved(item)" :row="item" :grid="GRID" :flat="search !== ''" @back="putBack(item)" />
          <PageTreeRow v-else :page="item" :grid="GRID" :flat="search !== ''" :is-live="isLive" />
        </template>
        <template #empty><p class="empty">No page holds these letters in its title or address.</p></template>
      </LedgerList>
    </template>
    <template #bench>
      <AddToTree v-if="doing === 'add'" :pages="pages" :beside="page" @made="show" @leave="doing = undefined" />
      <AddressStyles v-else-if="doing === 'styles'" :style="tree.style.value" @leave="doing = undefined" />
      <RemovePanel
        v-else-if="doing === 'remove' && page"
        :key="`remove ${page.id}`"
        :thing="{ kind: 'node', node: page.id, alone: false }"
        :pages="pages"
        @leave="doing = undefined"
        @removed="doing = undefined"
      />
      <HomeChoice
        v-else-if="doing === 'home' && page"
        :key="`home ${page.id}`"
        :page="page"
        @leave="doing = undefined"
        @chosen="doing = undefined"
      />
      <RemovedInTree
        v-else-if="removed"
        ref="removedBench"
        :key="removed.id"
        :row="removed"
        :pages="pages"
        :version="tree.version.value"
      />
      <template v-else-if="page">
        <PageBench
          v-if="page.kind === 'page'"
          :key="page.id"
          ref="bench"
          :page="page"
          :pages="pages"
          :version="tree.version.value"
          @back="mayTakeFocus() && list?.focus()"
          @point="point(page)"
          @made="show"
          @remove="doing = 'remove'"
          @home="doing = 'home'"
        />
        <NodeBench v-else :key="page.id" :node="page" @remove="doing = 'remove'" />
      </template>
    </template>
  </StationLayout>
</template>

<style scoped>
.empty {
  padding: 20px;
  margin: 0;
  color: var(--ink-5);
}
</style>
