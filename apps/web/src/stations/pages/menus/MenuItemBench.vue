<script setup lang="ts">
/** A menu, or one item of it. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import type { MenuRow } from '@fastigium/contracts/api/pages';
import { computed, ref } from 'vue';
import KeyHint from '../../../components/KeyHint.vue';
import LabelledField from '../../../components/LabelledField.vue';
import { count } from '../../../logic/format.ts';
import { useKept } from '../../../stores/kept.ts';
import { useSession } from '../../../stores/session.ts';
import { useSite } from '../../../stores/site.ts';
import PagePicker from '../../shared/PagePicker.vue';
import type { PickedTarget } from '../../shared/pickedTarget.ts';
import type { AnyItem, Path } from './menuTree.ts';
import { speak } from '../../../words.ts';

const props = defineProps<{
  menu: MenuRow;
  path: Path | undefined;
  item: AnyItem | undefined;
  pages: readonly PageRow[];
}>();
const emit = defineEmits<{
  set: [item: AnyItem];
  remove: [];
  back: [of: number];
  add: [page: PageRow];
  group: [];
  move: [key: string];
  'let-go': [];
}>();
const site = useSite();
const session = useSession();
const kept = useKept(
  `item ${props.menu.id} ${props.path?.join('.') ?? ''} ${props.item?.label ?? ''}`,
  () => props.item?.label ?? '',
);
const label = kept.text;
const target = ref<PickedTarget | undefined>(props.item?.target);
const newWindow = ref(props.item?.newWindow ?? false);
const adding = ref<PickedTarget>();

const isNew = computed(
  () =>
    props.item !== undefined &&
    label.value.trim() !== '' &&
    target.value !== undefined &&
    (label.value !== props.item.label ||
      newWindow.value !== props.item.newWindow ||
      JSON.stringify(target.value) !== JSON.stringify(props.item.target)),
);

function set(): void {
  if (props.item && target.value)
    emit('set', { ...props.item, label: label.value.trim(), target: target.value, newWindow: newWindow.value });
}
function add(): void {
  const page = props.pages.find(({ id }) => adding.value?.kind === 'page' && id === adding.value.page);
  if (page) emit('add', page);
}
</script>

<template>
  <template v-if="item">
    <h1 class="title-face">{{ item.label }}</h1>
    <p class="quiet">in {{ speak(menu.name) }}, on {{ count(menu.pages, 'page') }}</p>
    <template v-if="item.removed !== undefined">
      <p>
        Removed from this menu{{ item.children.length > 0 ? ', with all below it' : '' }}. It keeps its place among the
        others.
      </p>
      <v-btn v-if="session.mayEdit" variant="flat" color="primary" @click="emit('back', item.removed)"
        >Put back<KeyHint keys="B"
      /></v-btn>
    </template>
    <form v-else-if="session.mayEdit" @submit.prevent="set">
      <LabelledField v-model="label" label="Words in the menu" maxlength="200" />
      <p v-if="kept.wasKept.value && label !== item.label" class="wait" role="status">
        What you typed before is kept and not set yet.
        <button class="text-link" type="button" @click="kept.letGo()">Let it go</button>
      </p>
      <div class="field">
        <span class="quiet">Leads to</span
        ><PagePicker
          v-model="target"
          :pages="pages"
          :disabled="false"
          :offers="['home', 'newest', 'file', 'url', 'person', 'none']"
          has-places
        />
      </div>
      <label class="check"><input v-model="newWindow" type="checkbox" /> Opens in a new window</label>
      <v-btn type="submit" variant="flat" color="primary" :disabled="!isNew">Set<KeyHint keys="Enter" /></v-btn>
    </form>
    <template v-if="session.mayEdit && item.removed === undefined">
      <hr class="rule" />
      <div class="acts">
        <v-btn @click="emit('move', 'ArrowUp')">Up<KeyHint keys="Alt ↑" /></v-btn>
        <v-btn @click="emit('move', 'ArrowDown')">Down<KeyHint keys="Alt ↓" /></v-btn>
        <v-btn @click="emit('move', 'ArrowRight')">Nest<KeyHint keys="Alt →" /></v-btn>
        <v-btn :disabled="(path?.length ?? 1) < 2" @click="emit('move', 'ArrowLeft')"
          >Lift<KeyHint keys="Alt ←"
        /></v-btn>
        <v-btn color="error" @click="emit('remove')">Remove<KeyHint keys="Del" /></v-btn>
      </div>
    </template>
  </template>
  <template v-else>
    <h1 class="title-face">{{ speak(menu.name) }}</h1>
    <p class="quiet">
      Found in {{ count(menu.pages, 'page') }} at <span class="address">{{ menu.way }}</span>
    </p>
    <p>
      What is changed here is written into every page that has this menu, in the page’s own markup, with the item of the
      page one is on marked as this site marks it.
    </p>
    <form v-if="session.mayEdit" @submit.prevent="add">
      <div class="field">
        <span class="quiet">Add a page</span
        ><PagePicker v-model="adding" :pages="pages" :disabled="false" :offers="[]" />
      </div>
      <div class="acts">
        <v-btn type="submit" :disabled="adding?.kind !== 'page'">Add to this menu</v-btn
        ><v-btn @click="emit('group')">Add a head without a link</v-btn>
      </div>
    </form>
    <template v-if="menu.differing.length > 0">
      <hr class="rule" />
      <h2 class="heading">Differs on {{ count(menu.differing.length, 'page') }}</h2>
      <ul>
        <li v-for="page in menu.differing" :key="page.id">
          <RouterLink class="text-link" :to="{ name: 'pages', params: { page: page.id } }">{{
            page.title
          }}</RouterLink>{{ ' ' }}
          <span class="quiet">{{
            [...page.missing.map((each) => `lacks “${each}”`), ...page.extra.map((each) => `has “${each}” more`)].join(
              ', ',
            ) || 'another order'
          }}</span>
        </li>
      </ul>
      <v-btn
        v-if="session.mayEdit"
        @click="site.decide({ kind: 'menu', menu: menu.id, items: menu.items, whereItDiffers: !menu.whereItDiffers })"
        >{{ menu.whereItDiffers ? 'Leave these pages as they are' : 'Write it there too' }}</v-btn
      >
    </template>
    <template v-if="menu.isPointed && session.mayEdit && !menu.isEdited">
      <hr class="rule" />
      <p class="quiet">Somebody pointed at it in a page; it was not found by itself.</p>
      <v-btn @click="emit('let-go')">It is no menu</v-btn>
    </template>
    <template v-if="menu.isEdited && session.mayEdit">
      <hr class="rule" />
      <v-btn @click="site.decide({ kind: 'menu-removed', menu: menu.id })">As it was imported</v-btn>
    </template>
  </template>
</template>

<style scoped>
form {
  display: grid;
  gap: 12px;
  justify-items: start;
  margin-top: 12px;
}
form > .field {
  width: 100%;
  display: grid;
  gap: 4px;
}
.wait {
  color: var(--ochre-dark);
  margin: 0;
}
.check {
  display: flex;
  gap: 6px;
  align-items: center;
  font-size: 13px;
}
.check input {
  accent-color: var(--ink-9);
  margin: 0;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
p {
  margin: 4px 0 8px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0 0 12px;
}
li {
  padding: 4px 0;
  border-bottom: var(--line);
}
</style>
