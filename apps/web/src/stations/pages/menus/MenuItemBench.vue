<script setup lang="ts">
/** A menu, or one item of it. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import type { MenuRow } from '@fastigium/contracts/api/pages';
import { computed, ref } from 'vue';
import KeyHint from '../../../components/KeyHint.vue';
import LabelledField from '../../../components/LabelledField.vue';
import { useKept } from '../../../stores/kept.ts';
import { useSession } from '../../../stores/session.ts';
import { useSite } from '../../../stores/site.ts';
import PagePicker from '../../shared/PagePicker.vue';
import type { PickedTarget } from '../../shared/pickedTarget.ts';
import type { AnyItem, Path } from './menuTree.ts';
import { speak } from '../../../words/index.ts';
import { say } from '../words.ts';
import RichWords from '../../../words/RichWords.ts';

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
  say('menuItemBench.item', { id: props.menu.id, path: props.path?.join('.') ?? '', label: props.item?.label ?? '' }),
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
    <p class="quiet">{{ say('menuItemBench.inOnPages', { name: speak(menu.name), pages: menu.pages }) }}</p>
    <template v-if="item.removed !== undefined">
      <p>
        {{ say('menuItemBench.removedFromThisMenuWith', { hasChildren: item.children.length > 0 }) }}
      </p>
      <v-btn v-if="session.mayEdit" variant="flat" color="primary" @click="emit('back', item.removed)"
        >{{ say('common.putBack') }}<KeyHint keys="B"
      /></v-btn>
    </template>
    <form v-else-if="session.mayEdit" @submit.prevent="set">
      <LabelledField v-model="label" :label="say('menuItemBench.wordsInTheMenu')" maxlength="200" />
      <p v-if="kept.wasKept.value && label !== item.label" class="wait" role="status">
        {{ say('menuItemBench.whatYouTypedBeforeIs') }}
        <button class="text-link" type="button" @click="kept.letGo()">{{ say('common.letItGo') }}</button>
      </p>
      <div class="field">
        <span class="quiet">{{ say('common.leadsTo') }}</span><PagePicker
          v-model="target"
          :pages="pages"
          :disabled="false"
          :offers="['home', 'newest', 'file', 'url', 'person', 'none']"
          has-places
        />
      </div>
      <label class="check"
        ><input v-model="newWindow" type="checkbox" /> {{ say('menuItemBench.opensInANewWindow') }}</label
      >
      <v-btn type="submit" variant="flat" color="primary" :disabled="!isNew"
        >{{ say('common.set') }}<KeyHint keys="Enter"
      /></v-btn>
    </form>
    <template v-if="session.mayEdit && item.removed === undefined">
      <hr class="rule" />
      <div class="acts">
        <v-btn @click="emit('move', 'ArrowUp')">{{ say('menuItemBench.up') }}<KeyHint keys="Alt ↑" /></v-btn>
        <v-btn @click="emit('move', 'ArrowDown')">{{ say('menuItemBench.down') }}<KeyHint keys="Alt ↓" /></v-btn>
        <v-btn @click="emit('move', 'ArrowRight')">{{ say('menuItemBench.nest') }}<KeyHint keys="Alt →" /></v-btn>
        <v-btn :disabled="(path?.length ?? 1) < 2" @click="emit('move', 'ArrowLeft')"
          >{{ say('menuItemBench.lift') }}<KeyHint keys="Alt ←"
        /></v-btn>
        <v-btn color="error" @click="emit('remove')">{{ say('common.remove') }}<KeyHint keys="Del" /></v-btn>
      </div>
    </template>
  </template>
  <template v-else>
    <h1 class="title-face">{{ speak(menu.name) }}</h1>
    <p class="quiet">
      <RichWords :words="say.parts('menuItemBench.foundInPagesAt', { pages: menu.pages, way: menu.way })" />
    </p>
    <p>
      {{ say('menuItemBench.whatIsChangedHereIs') }}
    </p>
    <form v-if="session.mayEdit" @submit.prevent="add">
      <div class="field">
        <span class="quiet">{{ say('menuItemBench.addAPage') }}</span><PagePicker
          v-model="adding"
          :pages="pages"
          :disabled="false"
          :offers="[]"
        />
      </div>
      <div class="acts">
        <v-btn type="submit" :disabled="adding?.kind !== 'page'">{{ say('menuItemBench.addToThisMenu') }}</v-btn><v-btn
          @click="emit('group')"
          >{{ say('menuItemBench.addAHeadWithoutA') }}</v-btn
        >
      </div>
    </form>
    <template v-if="menu.differing.length > 0">
      <hr class="rule" />
      <h2 class="heading">{{ say('menuItemBench.differsOnPages', { differing: menu.differing.length }) }}</h2>
      <ul>
        <li v-for="page in menu.differing" :key="page.id">
          <RouterLink class="text-link" :to="{ name: 'pages', params: { page: page.id } }">{{
            page.title
          }}</RouterLink>{{ ' ' }}
          <span class="quiet">{{
            [
              ...page.missing.map((each) => say('menuItemBench.lacks', { each })),
              ...page.extra.map((each) => say('menuItemBench.hasMore', { each })),
            ].join(', ') || say('menuItemBench.anotherOrder')
          }}</span>
        </li>
      </ul>
      <v-btn
        v-if="session.mayEdit"
        @click="site.decide({ kind: 'menu', menu: menu.id, items: menu.items, whereItDiffers: !menu.whereItDiffers })"
        >{{
          menu.whereItDiffers ? say('menuItemBench.leaveThesePagesAsThey') : say('menuItemBench.writeItThereToo')
        }}</v-btn
      >
    </template>
    <template v-if="menu.isPointed && session.mayEdit && !menu.isEdited">
      <hr class="rule" />
      <p class="quiet">{{ say('menuItemBench.somebodyPointedAtItIn') }}</p>
      <v-btn @click="emit('let-go')">{{ say('menuItemBench.itIsNoMenu') }}</v-btn>
    </template>
    <template v-if="menu.isEdited && session.mayEdit">
      <hr class="rule" />
      <v-btn @click="site.decide({ kind: 'menu-removed', menu: menu.id })">{{
        say('menuItemBench.asItWasImported')
      }}</v-btn>
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
