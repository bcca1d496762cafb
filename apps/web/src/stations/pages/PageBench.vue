<script setup lang="ts">
/** One page: how it looks, its title and address, its part in the site, what is inside. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { pagesApi, type AddressPreview } from '@fastigium/contracts/api/pages';
import { useDebounceFn } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../../api/client.ts';
import KeyHint from '../../components/KeyHint.vue';
import LabelledField from '../../components/LabelledField.vue';
import { count } from '../../logic/format.ts';
import { useKept } from '../../stores/kept.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import ListingPanel from './ListingPanel.vue';
import MovesList from './MovesList.vue';
import PageInside from './PageInside.vue';
import PagePreview from './PagePreview.vue';
import { explain, speak } from '../../words.ts';
import { inBackground } from '../../stores/background.ts';

const props = defineProps<{ page: PageRow; pages: readonly PageRow[]; version: number }>();
const emit = defineEmits<{ back: []; point: []; made: [id: string | undefined]; remove: []; home: [] }>();
const site = useSite();
const session = useSession();
const router = useRouter();
const keptTitle = useKept(`title ${props.page.id}`, () => props.page.title);
const keptAddress = useKept(`address ${props.page.id}`, () => props.page.address);
const [title, address] = [keptTitle.text, keptAddress.text];
const field = ref<{ focus(): void }>();
/** Somebody else set the title while another one was being typed here. */
const meanwhile = ref(false);
const saving = ref(false);
const preview = ref<AddressPreview>();
const problem = ref('');
const changed = computed(() => title.value.trim() !== props.page.title);
const moved = computed(() => address.value.trim() !== props.page.address);

// Someone else may have set them meanwhile; what is being typed here is not thrown away for it.
watch(
  () => props.page.title,
  (now, before) => {
    meanwhile.value = title.value !== before && title.value.trim() !== now;
    if (title.value === before) title.value = now;
  },
);
watch(
  () => props.page.address,
  (now, before) => {
    if (address.value === before) address.value = now;
  },
);

async function save(): Promise<void> {
  if (!changed.value) {
    emit('back');
    return;
  }
  saving.value = true;
  const done = await site.decide({ kind: 'title', page: props.page.id, title: title.value });
  saving.value = false;
  if (done) meanwhile.value = false;
  if (done) emit('back');
}

const ask = useDebounceFn(async () => {
  preview.value = undefined;
  problem.value = '';
  if (site.id === undefined || !moved.value) return;
  const asked = address.value;
  try {
    const answer = await call(pagesApi.previewRename, {
      params: { site: site.id, page: props.page.id },
      body: { address: inside(asked) },
    });
    if (address.value === asked) preview.value = answer;
  } catch (error) {
    if (address.value === asked) problem.value = explain(error);
  }
}, 250);
watch(address, () => inBackground(ask()));
if (moved.value) inBackground(ask());

/** The path the site is under is not the page's own to change. */
function inside(text: string): string {
  const base = site.overview?.basePath ?? '';
  return base !== '' && text.startsWith(`${base}/`) ? text.slice(base.length) : text;
}

async function rename(): Promise<void> {
  if (!moved.value) return;
  saving.value = true;
  if (await site.decide({ kind: 'rename', page: props.page.id, address: inside(address.value) }))
    preview.value = undefined;
  saving.value = false;
}

async function duplicate(): Promise<void> {
  emit('made', await site.make({ kind: 'duplicate', page: props.page.id, title: `${props.page.label}, copy` }));
}

defineExpose({ editTitle: () => field.value?.focus() });
</script>

<template>
  <h1 class="title-face">{{ page.label || 'Page without a title' }}</h1>
  <p class="address quiet where">{{ page.address }}</p>
  <PagePreview :address="page.address" :version="version" :name="page.title || page.address" />
  <v-btn v-if="session.mayEdit" class="wide" @click="emit('point')"
    >Point at a text, link or picture to change it<KeyHint keys="P"
  /></v-btn>
  <hr class="rule" />
  <form class="line" @submit.prevent="save">
    <LabelledField
      ref="field"
      v-model="title"
      :label="`Title, ${count(title.trim().length, 'letter')}`"
      :readonly="!session.mayEdit"
      maxlength="1000"
      @keydown.esc="emit('back')"
    />
    <v-btn
      v-if="session.mayEdit"
      type="submit"
      :variant="changed ? 'flat' : 'outlined'"
      :color="changed ? 'primary' : undefined"
      height="36"
      :loading="saving && changed"
      :disabled="!changed"
      >Set<KeyHint keys="Enter"
    /></v-btn>
  </form>
  <p v-if="keptTitle.wasKept.value && changed && !meanwhile" class="wait" role="status">
    What you typed before is kept and not set yet.
    <button class="text-link" type="button" @click="keptTitle.letGo()">Let it go</button>
  </p>
  <p v-if="meanwhile && changed" class="wait" role="status">
    Meanwhile somebody set it to “{{ page.title }}”. What you typed is kept: set it over theirs, or
    <button class="text-link" type="button" @click="((title = page.title), (meanwhile = false))">take theirs</button>.
  </p>
  <p v-if="page.textOf !== null" class="wait">
    Its text is that of release {{ page.textOf }}.
    <button
      v-if="session.mayEdit"
      class="text-link"
      type="button"
      @click="site.decide({ kind: 'text-of-file', page: page.id })"
    >
      Take the text of its file again
    </button>
  </p>
  <p v-if="page.importedTitle !== null" class="quiet">In the imported file: “{{ page.importedTitle || 'none' }}”</p>
  <form class="line" @submit.prevent="rename">
    <LabelledField
      v-model="address"
      class="address"
      label="Address"
      :readonly="!session.mayEdit || page.isHome"
      maxlength="2000"
      @keydown.esc="((address = page.address), emit('back'))"
    />
    <v-btn
      v-if="session.mayEdit && !page.isHome"
      type="submit"
      :variant="preview ? 'flat' : 'outlined'"
      :color="preview ? 'primary' : undefined"
      height="36"
      :disabled="!preview"
      >Move</v-btn
    >
  </form>
  <p v-if="keptAddress.wasKept.value && moved" class="wait" role="status">
    What you typed before is kept and not set yet.
    <button class="text-link" type="button" @click="keptAddress.letGo()">Let it go</button>
  </p>
  <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
  <MovesList v-if="preview" :preview="preview" />
  <div v-if="session.mayEdit" class="acts">
    <v-btn
      v-if="!page.isHome"
      :disabled="!page.isReady"
      :title="page.isReady ? undefined : 'A page that is not ready is not published, so it cannot be the home page'"
      @click="emit('home')"
      >Use as home page …<KeyHint keys="H"
    /></v-btn>
    <v-btn v-if="!page.isHome" @click="site.decide({ kind: 'ready', page: page.id, ready: !page.isReady })"
      >{{ page.isReady ? 'Not ready' : 'Mark as ready' }}<KeyHint keys="N"
    /></v-btn>
    <v-btn @click="site.decide({ kind: 'in-menus', page: page.id, shown: !page.inMenus })"
      >{{ page.inMenus ? 'Leave out of menus' : 'Show in menus' }}<KeyHint keys="M"
    /></v-btn>
    <v-btn @click="duplicate">Duplicate</v-btn>
    <v-btn color="error" @click="emit('remove')">Remove …<KeyHint keys="Del" /></v-btn>
  </div>
  <ul v-if="page.menuWords.length > 0" class="in-menus">
    <li v-for="(each, index) in page.menuWords" :key="`${each.menu} ${index}`">
      {{ speak(each.name) }} says “{{ each.label }}”<button
        v-if="session.mayEdit"
        class="text-link"
        type="button"
        @click="router.replace({ query: { show: 'menus', item: page.id, menu: each.menu } })"
      >
        Rename it there
      </button>
    </li>
  </ul>
  <p v-else-if="session.mayEdit && page.inMenus" class="quiet">
    In no menu.
    <button class="text-link" type="button" @click="router.replace({ query: { show: 'menus', add: page.id } })">
      Add it to one
    </button>
  </p>
  <p v-if="page.isHome" class="quiet">
    <b>This is the home page.</b> Another page takes its place when it is chosen; one step back undoes that.
  </p>
  <p v-else-if="!page.isReady" class="quiet">
    It is not published, menus leave it out, and it cannot be the home page until it is marked as ready.
  </p>
  <hr class="rule" />
  <ListingPanel :page="page" :pages="pages" />
  <PageInside :page="page" :version="version" />
  <hr class="rule" />
  <p class="quiet">
    {{ page.isAdded ? 'Added here. ' : ''
    }}{{
      page.linksIn === 0
        ? 'No page leads here'
        : `${count(page.linksIn, 'page')} ${page.linksIn === 1 ? 'leads' : 'lead'} here`
    }}. Source file <span class="address">{{ page.sourcePath }}</span>
  </p>
</template>

<style scoped>
p {
  margin: 0 0 8px;
}
.wait {
  color: var(--ochre-dark);
}
.where {
  margin: 2px 0 10px;
}
.wide {
  width: 100%;
  margin-top: 10px;
}
.line {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: end;
  margin-bottom: 8px;
}
.in-menus {
  list-style: none;
  margin: 8px 0;
  padding: 0;
}
.in-menus li {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 3px 0;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin: 12px 0 8px;
}
</style>
