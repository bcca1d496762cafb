<script setup lang="ts">
/** The site's menus: found in the imported pages, edited here once, written into every page in its own markup. */
import type { PageRow, RemovedRow } from '@fastigium/contracts/api/draft';
import type { MenuItemRequest } from '@fastigium/contracts/decisions/lists';
import { pagesApi, type MenuRow } from '@fastigium/contracts/api/pages';
import type { AnswerOf } from '@fastigium/contracts/endpoint';
import { computed, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { call } from '../../../api/client.ts';
import KeystoneMark from '../../../components/KeystoneMark.vue';
import LedgerColumns from '../../../components/LedgerColumns.vue';
import LedgerHead from '../../../components/LedgerHead.vue';
import LedgerList from '../../../components/LedgerList.vue';
import StationLayout from '../../../components/StationLayout.vue';
import { useReadAgain } from '../../../stores/readAgain.ts';
import { useSession } from '../../../stores/session.ts';
import { useNotices } from '../../../stores/notices.ts';
import { useSite } from '../../../stores/site.ts';
import RemovedSwitch from '../removals/RemovedSwitch.vue';
import { useShowsRemoved } from '../removals/showsRemoved.ts';
import MenuItemBench from './MenuItemBench.vue';
import {
  identifyItem,
  findItem,
  keyRows,
  moveItem,
  findPath,
  replaceItem,
  type AnyItem,
  type Path,
} from './menuTree.ts';
import { speak } from '../../../words/index.ts';
import { runInBackground } from '../../../stores/background.ts';
import { say } from '../words.ts';
import RichWords from '../../../words/RichWords.ts';

const props = defineProps<{ pages: readonly PageRow[]; removed: readonly RemovedRow[] }>();
const GRID = 'minmax(0, 4fr) minmax(0, 4fr) minmax(0, 2fr)';
const site = useSite();
const notices = useNotices();
const session = useSession();
const route = useRoute();
const router = useRouter();
const menus = shallowRef<readonly MenuRow[]>([]);
const apart = shallowRef<AnswerOf<typeof pagesApi.menus>['apart']>([]);
const search = ref('');
const selected = ref<string>();
const benchOpen = ref(false);
const loaded = ref(false);
const showsRemoved = useShowsRemoved();

useReadAgain(async (id) => {
  const answer = await call(pagesApi.menus, { params: { site: id } });
  [menus.value, apart.value] = [answer.menus, answer.apart];
  loaded.value = true;
});

/** Removed itself, or below one that is. */
const isOut = (item: AnyItem) => item.removed !== undefined;
const isUnderOut = (menu: MenuRow, path: Path | undefined) =>
  path?.some((_, depth) => {
    const above = findItem(menu.items, path.slice(0, depth + 1));
    return above !== undefined && isOut(above);
  }) ?? false;

interface Row {
  readonly key: string;
  /** The item's own, see identityOf. */
  readonly own: string | undefined;
  readonly menu: MenuRow;
  /** Undefined for the row of the menu itself. */
  readonly path: Path | undefined;
  readonly item: AnyItem | undefined;
}
const deriveKey = (menu: string, item: string | undefined) => `${menu}|${item ?? ''}`;
const isRowAway = ({ menu, path, item }: Row) => item !== undefined && (isUnderOut(menu, path) || isAway(item));
const all = computed<Row[]>(() =>
  menus.value.flatMap((menu): Row[] => [
    { key: deriveKey(menu.id, undefined), own: undefined, menu, path: undefined, item: undefined },
    ...keyRows(menu.items).map(({ key, item, path }) => ({ key: deriveKey(menu.id, key), own: key, menu, path, item })),
  ]),
);
const away = computed(() => all.value.filter(isRowAway).length);
const rows = computed(() =>
  all.value
    .filter((each) => showsRemoved.value || !isRowAway(each))
    .filter(
      ({ menu, item }) =>
        search.value === '' ||
        `${speak(menu.name)} ${item?.label ?? ''}`.toLowerCase().includes(search.value.toLowerCase()),
    ),
);
const byId = computed(() => new Map(props.pages.map((page) => [page.id, page])));

function leadsTo(item: AnyItem): { words: string; wrong: boolean } {
  const { target } = item;
  if (target.kind === 'url') return { words: target.url.replace(/^(mailto|tel):/, ''), wrong: false };
  if (target.kind === 'address') return { words: target.address, wrong: false };
  if (target.kind === 'home') return { words: say('common.homePage'), wrong: false };
  if (target.kind === 'none')
    return {
      words: item.children.length > 0 ? say('menusView.headsThoseBelowIt') : say('menusView.nowhereYet'),
      wrong: false,
    };
  const page = byId.value.get(target.page);
  const removedPage = props.removed.find(({ id }) => id === target.page);
  if (removedPage) return { words: removedPage.address, wrong: false };
  if (page && target.newest) return { words: say('menusView.newestOf', { label: page.label }), wrong: false };
  // Before the pages have come, nothing is said of them.
  if (!page && props.pages.length === 0) return { words: '', wrong: false };
  return page
    ? { words: page.address + (target.fragment === undefined ? '' : `#${target.fragment}`), wrong: false }
    : { words: say('menusView.aPageThatIsGone'), wrong: true };
}
const isAway = (item: AnyItem) =>
  item.target.kind === 'page' &&
  !byId.value.has(item.target.page) &&
  props.removed.some(({ id }) => item.target.kind === 'page' && id === item.target.page);
const standing = (item: AnyItem) => {
  if (isOut(item)) return 'removed';
  if (isAway(item)) return say('menusView.comesBackWithItsPage');
  const page = item.target.kind === 'page' ? byId.value.get(item.target.page) : undefined;
  return page && !page.isReady
    ? say('menusView.leftOutNotReady')
    : page && !page.inMenus
      ? say('menusView.leftOutOfMenus')
      : item.newWindow
        ? say('menusView.newWindow')
        : '';
};

watch(
  rows,
  (now) => {
    if (!now.some(({ key }) => key === selected.value)) selected.value = now[0]?.key;
  },
  { immediate: true },
);
const row = computed(() => rows.value.find(({ key }) => key === selected.value));

type Change = (items: readonly AnyItem[], path: Path) => readonly AnyItem[] | undefined;

/** Changes a menu as it is when its turn comes; the item is the one that was meant, wherever it stands by then. */
function changeMenu(id: string, own: string | undefined, by: Change): Promise<boolean> {
  return site.decide(() => {
    const menu = menus.value.find((each) => each.id === id);
    const path = own === undefined ? [] : menu && findPath(menu.items, own);
    const items = menu && path && by(menu.items, path);
    return items && { kind: 'menu', menu: id, items: items as MenuItemRequest[], whereItDiffers: menu.whereItDiffers };
  });
}

/** Changed items may be known by another key afterwards; the row stays chosen if it still is by then. */
async function set(at: Row, item: AnyItem): Promise<void> {
  const { key, own, menu } = at;
  const done = await changeMenu(menu.id, own, (items, path) => replaceItem(items, path, item));
  if (done && selected.value === key) selected.value = deriveKey(menu.id, identifyItem(item));
}

function move({ menu, own }: Row, key: string): void {
  runInBackground(changeMenu(menu.id, own, (items, path) => moveItem(items, path, key)?.items));
}

function onKey(event: KeyboardEvent, at: Row | undefined): void {
  if (!at?.path || !session.mayEdit) return;
  if (event.altKey && event.key.startsWith('Arrow')) move(at, event.key);
  else if (event.key === 'Delete' && !isUnderOut(at.menu, at.path)) remove(at.menu, at.path);
  else if (event.key === 'b' && at.item?.removed !== undefined) putBack(at.item.removed);
  else return;
  event.preventDefault();
}

function remove({ id, items }: MenuRow, path: Path): void {
  const own = keyRows(items).find((row) => row.path.join() === path.join())?.key;
  runInBackground(
    site.decide(() => {
      const now =
        own === undefined ? undefined : findPath(menus.value.find((each) => each.id === id)?.items ?? [], own);
      return (
        now && {
          kind: 'remove',
          thing: { kind: 'menu-item', menu: id, path: [...now] },
          standIn: { kind: 'none' },
          links: 'kept',
          why: '',
          newHome: null,
        }
      );
    }),
  );
}
function putBack(of: number): void {
  runInBackground(site.decide({ kind: 'put-back', things: [{ of }], where: 'in-place', taken: 'stop' }));
}

async function add(menu: MenuRow, item: AnyItem): Promise<void> {
  const before = selected.value;
  const done = await changeMenu(menu.id, undefined, (items) => [...items, item]);
  if (done && selected.value === before) selected.value = deriveKey(menu.id, identifyItem(item));
}
const addPage = (menu: MenuRow, page: PageRow) =>
  add(menu, { target: { kind: 'page', page: page.id }, label: page.label, newWindow: false, children: [] });
const addHead = (menu: MenuRow) =>
  add(menu, { target: { kind: 'none' }, label: say('menusView.newHead'), newWindow: false, children: [] });

async function letGo(menu: MenuRow): Promise<void> {
  if (site.id === undefined) return;
  try {
    await call(pagesApi.letGoMenu, { params: { site: site.id }, body: { menu: menu.id } });
    notices.done(say('menusView.isNoMenuAnyMore', { name: speak(menu.name) }));
  } catch (error) {
    notices.problem(error);
  }
}

// Asked for from a page's own bench: its item, to be called otherwise; or the whole menu, from a link in it.
watch(
  [() => route.query.item, () => route.query.menu, loaded],
  ([page, menu, isLoaded]) => {
    if (!isLoaded || typeof menu !== 'string') return;
    const isHome = typeof page === 'string' && byId.value.get(page)?.isHome === true;
    const found = all.value.find(
      (each) =>
        each.menu.id === menu &&
        (typeof page !== 'string') === (each.item === undefined) &&
        (!each.item ||
          (each.item.target.kind === 'page' && each.item.target.page === page) ||
          (isHome && each.item.target.kind === 'home')),
    );
    runInBackground(router.replace({ query: { show: 'menus' } }));
    if (found) [selected.value, benchOpen.value] = [found.key, true];
  },
  { immediate: true },
);

// Asked for from a page's own bench: added to the first menu, which stands on most pages.
watch(
  [() => route.query.add, loaded],
  ([page, isLoaded]) => {
    const wanted = isLoaded && typeof page === 'string' ? byId.value.get(page) : undefined;
    const main = menus.value[0];
    if (!wanted || !main) return;
    runInBackground(router.replace({ query: { show: 'menus' } }));
    runInBackground(addPage(main, wanted));
  },
  { immediate: true },
);
</script>

<template>
  <StationLayout
    v-model:bench-open="benchOpen"
    :bench-of="selected"
    :bench-label="say('menusView.theSelectedMenuItem')"
  >
    <template #ledger>
      <LedgerHead v-model="search" :search-label="say('menusView.searchMenus')"
        ><slot /><template #after><RemovedSwitch :removed="away" /></template
      ></LedgerHead>
      <LedgerColumns
        :grid="GRID"
        :columns="[{ label: say('menusView.item') }, { label: say('common.leadsTo') }, { label: '' }]"
      />
      <LedgerList
        v-model="selected"
        :items="rows"
        :key-of="(each) => each.key"
        :row-height="39"
        :label="say('common.menus')"
        :depth-of="(each) => each.path?.length ?? 0"
        @pick="benchOpen = true"
        @enter="benchOpen = true"
        @key="onKey"
      >
        <template #default="{ item: each }">
          <div v-if="!each.item" class="cells" :style="{ gridTemplateColumns: GRID }">
            <span class="strong one-line"
              ><KeystoneMark class="mark" :mark="each.menu.isEdited ? 'ochre' : 'verdigris'" />{{
                speak(each.menu.name)
              }}</span
            >
            <span class="quiet one-line">{{
              say('menusView.onPagesAsImported', { pages: each.menu.pages, isEdited: each.menu.isEdited })
            }}</span>
            <span
              class="quiet one-line"
              :class="{ differs: each.menu.differing.length > 0 && !each.menu.whereItDiffers }"
              >{{
                each.menu.differing.length > 0 && !each.menu.whereItDiffers
                  ? say('menusView.differsOn', { differing: each.menu.differing.length })
                  : ''
              }}</span
            >
          </div>
          <div
            v-else
            class="cells"
            :class="{ away: isUnderOut(each.menu, each.path) || isAway(each.item) }"
            :style="{ gridTemplateColumns: GRID }"
          >
            <span class="one-line" :style="{ paddingInlineStart: `${(each.path?.length ?? 1) * 22}px` }"
              ><span class="branch" aria-hidden="true">└ </span
              ><KeystoneMark v-if="isOut(each.item) || isAway(each.item)" class="mark" mark="dashed" />{{
                each.item.label
              }}<button
                v-if="each.item.removed !== undefined && session.mayEdit"
                class="text-link back"
                type="button"
                @click.stop="putBack(each.item.removed)"
              >
                {{ say('common.putBack') }}
              </button></span
            >
            <span
              class="one-line"
              :class="{ wrong: leadsTo(each.item).wrong, address: /^[/#]|^https?:/.test(leadsTo(each.item).words) }"
              >{{ leadsTo(each.item).words }}</span
            >
            <span class="quiet one-line">{{ standing(each.item) }}</span>
          </div>
        </template>
        <template #empty
          ><p class="empty">
            {{
              search !== '' ? say('menusView.noMenuHoldsTheseLetters') : loaded ? say('menusView.noMenuWasFoundNo') : ''
            }}
          </p></template
        >
      </LedgerList>
    </template>
    <template #bench>
      <MenuItemBench
        v-if="row"
        :key="row.key"
        :menu="row.menu"
        :path="row.path"
        :item="row.path ? findItem(row.menu.items, row.path) : undefined"
        :pages="pages"
        @set="(item) => row && set(row, item)"
        @remove="row.path && remove(row.menu, row.path)"
        @back="putBack"
        @add="(page) => row && addPage(row.menu, page)"
        @group="row && addHead(row.menu)"
        @move="(key) => row && move(row, key)"
        @let-go="row && letGo(row.menu)"
      />
      <template v-else>
        <h1 class="title-face">{{ say('common.menus') }}</h1>
        <p class="quiet">
          {{ say('menusView.aListOfLinksThat') }}
        </p>
      </template>
      <template v-if="apart.length > 0 && !row?.item">
        <hr class="rule" />
        <h2 class="heading">{{ say('menusView.keptApart') }}</h2>
        <p class="quiet">
          {{ say('menusView.theseDifferFromPageTo') }}
        </p>
        <ul class="apart">
          <li v-for="each in apart" :key="each.way">
            <RichWords
              :words="
                say.parts('menusView.trailOnPages', {
                  isSteps: each.kind === 'steps',
                  pages: each.pages,
                  labels: each.labels.join(' · '),
                })
              "
            />
          </li>
        </ul>
      </template>
    </template>
  </StationLayout>
</template>

<style scoped>
.cells {
  display: grid;
  gap: 16px;
  align-items: center;
}
.mark {
  margin-inline-end: 7px;
  vertical-align: -1px;
}
.branch {
  color: var(--stone-5);
}
.away {
  position: absolute;
  inset: 2px;
  padding-inline: 15px 18px;
  color: var(--ink-5);
  background: repeating-linear-gradient(135deg, transparent 0 10px, var(--stone-1) 10px 20px);
}
.back {
  margin-inline-start: 10px;
  font-size: 13px;
}
.differs {
  color: var(--ochre-dark);
}
.apart {
  list-style: none;
  margin: 0;
  padding: 0;
}
.apart li {
  padding: 5px 0;
  border-bottom: var(--line);
}
.empty {
  padding: 20px;
  margin: 0;
  color: var(--ink-5);
}
</style>
