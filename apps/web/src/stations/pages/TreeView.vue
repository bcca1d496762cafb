<script setup lang="ts">
/** The tree of pages, worked on by drag and by keyboard. */
import type { PageRow, RemovedRow } from '@fastigium/contracts/api/draft';
import type { DecisionRequest } from '@fastigium/contracts/decisions/request';
import { removalsApi } from '@fastigium/contracts/api/removals';
import { computed, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import LedgerColumns from '../../components/LedgerColumns.vue';
import LedgerHead from '../../components/LedgerHead.vue';
import LedgerList from '../../components/LedgerList.vue';
import StationLayout from '../../components/StationLayout.vue';
import { call } from '../../api/client.ts';
import { useNotices } from '../../stores/notices.ts';
import { mayTakeFocus } from '../../logic/focus.ts';
import { readDay } from '../../logic/format.ts';
import { formatReadable } from '../../logic/readable.ts';
import { usePageInAddress } from '../shared/pageInAddress.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import RemovePanel from '../shared/RemovePanel.vue';
import AddToTree from './AddToTree.vue';
import AddressStyles from './AddressStyles.vue';
import { listAbove, isFolder, listShownRows, type ShownRow } from './folding.ts';
import FolderTreeRow from './FolderTreeRow.vue';
import HomeChoice from './HomeChoice.vue';
import NodeBench from './NodeBench.vue';
import PageBench from './PageBench.vue';
import PageTreeRow from './PageTreeRow.vue';
import { placeDropped, placeStepped } from './placing.ts';
import type { Pages } from './pages.ts';
import { putInPlace, isRemoved } from './removals/inPlace.ts';
import RemovedInTree from './removals/RemovedInTree.vue';
import RemovedSwitch from './removals/RemovedSwitch.vue';
import RemovedTreeRow from './removals/RemovedTreeRow.vue';
import { useShowsRemoved } from './removals/showsRemoved.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';

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
/** What somebody folded or unfolded while this stands. */
const open = ref<ReadonlyMap<string, boolean>>(new Map());
const entries = computed(() => {
  const wanted = search.value.toLowerCase();
  const all = showsRemoved.value ? putInPlace(pages.value, props.tree.removed.value) : pages.value;
  return wanted === ''
    ? all
    : all.filter(({ title, address }) =>
        `${title} ${address} ${formatReadable(address)}`.toLowerCase().includes(wanted),
      );
});
/** What is found is shown in a row, wherever it stands. */
const rows = computed<readonly ShownRow[]>(() =>
  search.value === ''
    ? listShownRows(entries.value, open.value)
    : entries.value.map((row) => ({ row, depth: 0, isOpen: undefined, below: 0 })),
);
const selected = usePageInAddress(
  'pages',
  () => entries.value[0]?.id,
  () => {
    doing.value = undefined;
  },
);
const chosen = computed(
  () => entries.value.find(({ id }) => id === selected.value) ?? pages.value.find(({ id }) => id === selected.value),
);
const folder = computed(() => rows.value.find(({ row }) => row.id === selected.value && isFolder(row))?.row);
// Wherever one comes from, the chosen row is seen.
watch(
  [selected, () => entries.value.length],
  ([id]) => {
    const closed = id === undefined ? [] : listAbove(entries.value, id).filter((each) => open.value.get(each) !== true);
    if (closed.length > 0) open.value = new Map([...open.value, ...closed.map((each) => [each, true] as const)]);
  },
  { immediate: true },
);

function fold(id: string, isOpen: boolean): void {
  open.value = new Map(open.value).set(id, isOpen);
  // What is chosen is not left out of sight.
  if (!isOpen && selected.value !== undefined && listAbove(entries.value, selected.value).includes(id))
    selected.value = id;
}

/** To the left: closes, then goes to the row above it; to the right: opens (ARIA Authoring Practices, tree view). */
function onArrow(event: KeyboardEvent, { row, isOpen }: ShownRow): boolean {
  if (event.altKey || (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight')) return false;
  const isLeft = event.key === 'ArrowLeft';
  if (isOpen === isLeft) fold(row.id, !isOpen);
  else if (isLeft) selected.value = (isFolder(row) ? [] : listAbove(entries.value, row.id)).at(-1) ?? row.id;
  event.preventDefault();
  return true;
}
const page = computed(() => (chosen.value && !isRemoved(chosen.value) ? chosen.value : undefined));
const removed = computed(() => (chosen.value && isRemoved(chosen.value) ? chosen.value : undefined));
const firstUntil = computed(() => {
  const [first] = props.tree.removed.value.flatMap(({ keptUntil }) => keptUntil ?? []).sort();
  return first === undefined ? undefined : readDay(first);
});
const isLive = computed(() => site.overview?.live != null);

function startWork(): void {
  benchOpen.value = true;
  bench.value?.editTitle();
}

function onKey(event: KeyboardEvent, shown: ShownRow | undefined): void {
  if (!shown || onArrow(event, shown)) return;
  const { row } = shown;
  if (!session.mayEdit || isFolder(row)) return;
  if (isRemoved(row)) {
    if (event.key !== 'b' || event.altKey) return;
    event.preventDefault();
    void removedBench.value?.putBack();
    return;
  }
  if (event.altKey) {
    const { id } = row;
    const { key } = event;
    if (!placeStepped(pages.value, row, key) && !site.isBusy) return;
    // Several steps in a row each go on from where the one before put it.
    runInBackground(
      site.decide(() => {
        const now = pages.value.find((each) => each.id === id);
        const place = now && placeStepped(pages.value, now, key);
        return place && { kind: 'place', node: id, ...place, keepAddress: false };
      }),
    );
  } else if (event.key === 'e') startWork();
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
  runInBackground(
    site.decide(() => {
      const now = pages.value.find((each) => each.id === id);
      return now && turned(now);
    }),
  );
}

function point(row: PageRow): void {
  runInBackground(router.push({ name: 'pages', params: { page: row.id }, query: { point: '1' } }));
}

function onDrop({ row: item }: ShownRow, { row: onto }: ShownRow, where: 'before' | 'inside' | 'after'): void {
  // What is removed keeps its place; the others are put down beside those that stand.
  if (isFolder(item) || isFolder(onto) || isRemoved(item) || isRemoved(onto)) return;
  const [node, beside] = [item.id, onto.id];
  runInBackground(
    site.decide(() => {
      const [moved, still] = [node, beside].map((id) => pages.value.find((each) => each.id === id));
      const place = moved && still && placeDropped(pages.value, moved, still, where);
      return place && { kind: 'place', node, ...place, keepAddress: false };
    }),
  );
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
  <StationLayout v-model:bench-open="benchOpen" :bench-of="selected" :bench-label="say('treeView.theSelectedPage')">
    <template #ledger>
      <LedgerHead v-model="search" :search-label="say('common.searchPages')">
        <slot />
        <template #after>
          <RemovedSwitch
            :removed="tree.removed.value.length"
            v-bind="firstUntil ? { hint: say('treeView.removedRowsStayInTheir', { firstUntil }) } : {}"
          />
          <template v-if="session.mayEdit">
            <button class="text-link" type="button" @click="((doing = 'styles'), (benchOpen = true))">
              {{ say('common.addresses') }}
            </button>
            <v-btn height="28" @click="((doing = 'add'), (benchOpen = true))">{{ say('common.add') }}</v-btn>
          </template>
        </template>
      </LedgerHead>
      <LedgerColumns
        :grid="GRID"
        :columns="[
          { label: say('common.page') },
          { label: say('common.address') },
          { label: say('treeView.whereItShows') },
          { label: '' },
        ]"
      />
      <LedgerList
        ref="list"
        v-model="selected"
        :items="rows"
        :key-of="({ row }) => row.id"
        :row-height="39"
        :label="say('common.pages')"
        :depth-of="({ depth }) => depth"
        :open-of="({ isOpen }) => isOpen"
        :can-drag="session.mayEdit && search === ''"
        @pick="benchOpen = true"
        @enter="(item) => (isFolder(item.row) ? fold(item.row.id, item.isOpen !== true) : startWork())"
        @key="onKey"
        @drop="onDrop"
      >
        <template #default="{ item: { row, depth, isOpen, below } }">
          <FolderTreeRow
            v-if="isFolder(row)"
            :folder="row"
            :grid="GRID"
            :depth="depth"
            :is-open="isOpen === true"
            @fold="fold(row.id, isOpen !== true)"
          />
          <RemovedTreeRow v-else-if="isRemoved(row)" :row="row" :grid="GRID" :depth="depth" @back="putBack(row)" />
          <PageTreeRow
            v-else
            :page="row"
            :grid="GRID"
            :depth="depth"
            :is-open="isOpen"
            :below="below"
            :is-live="isLive"
            @fold="fold(row.id, isOpen !== true)"
          />
        </template>
        <template #empty
          ><p class="empty">
            {{
              !tree.isRead.value
                ? say('treeView.readingThePages')
                : search === ''
                  ? say('treeView.noPagesYetTheyAre')
                  : say('treeView.noPageHoldsTheseLetters')
            }}
          </p></template
        >
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
      <template v-else-if="folder">
        <h1 class="title-face">{{ formatReadable(folder.address) }}</h1>
        <p class="quiet">
          {{ say('treeView.noPageStandsForThis', { value: 'pages' in folder ? folder.pages : 0 }) }}
        </p>
      </template>
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
