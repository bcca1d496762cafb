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
import { useKept } from '../../stores/kept.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import ListingPanel from './ListingPanel.vue';
import MovesList from './MovesList.vue';
import PageInside from './PageInside.vue';
import PagePreview from './PagePreview.vue';
import { explain, speak } from '../../words/index.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';
import RichWords from '../../words/RichWords.ts';

const props = defineProps<{ page: PageRow; pages: readonly PageRow[]; version: number }>();
const emit = defineEmits<{ back: []; point: []; made: [id: string | undefined]; remove: []; home: [] }>();
const site = useSite();
const session = useSession();
const router = useRouter();
const keptTitle = useKept(say('pageBench.title', { id: props.page.id }), () => props.page.title);
const keptAddress = useKept(say('pageBench.address', { id: props.page.id }), () => props.page.address);
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
      body: { address: stripBase(asked) },
    });
    if (address.value === asked) preview.value = answer;
  } catch (error) {
    if (address.value === asked) problem.value = explain(error);
  }
}, 250);
watch(address, () => runInBackground(ask()));
if (moved.value) runInBackground(ask());

/** The path the site is under is not the page's own to change. */
function stripBase(text: string): string {
  const base = site.overview?.basePath ?? '';
  return base !== '' && text.startsWith(`${base}/`) ? text.slice(base.length) : text;
}

async function rename(): Promise<void> {
  if (!moved.value) return;
  saving.value = true;
  if (await site.decide({ kind: 'rename', page: props.page.id, address: stripBase(address.value) }))
    preview.value = undefined;
  saving.value = false;
}

async function duplicate(): Promise<void> {
  emit(
    'made',
    await site.make({
      kind: 'duplicate',
      page: props.page.id,
      title: say('pageBench.copy', { label: props.page.label }),
    }),
  );
}

defineExpose({ editTitle: () => field.value?.focus() });
</script>

<template>
  <h1 class="title-face">{{ page.label || say('pageBench.pageWithoutATitle') }}</h1>
  <p class="address quiet where">{{ page.address }}</p>
  <PagePreview :address="page.address" :version="version" :name="page.title || page.address" />
  <v-btn v-if="session.mayEdit" class="wide" @click="emit('point')"
    >{{ say('pageBench.pointAtATextLink') }}<KeyHint keys="P"
  /></v-btn>
  <hr class="rule" />
  <form class="line" @submit.prevent="save">
    <LabelledField
      ref="field"
      v-model="title"
      :label="say('pageBench.titleLetters', { title: title.trim().length })"
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
      >{{ say('common.set') }}<KeyHint keys="Enter"
    /></v-btn>
  </form>
  <p v-if="keptTitle.wasKept.value && changed && !meanwhile" class="wait" role="status">
    {{ say('pageBench.whatYouTypedBeforeIs') }}
    <button class="text-link" type="button" @click="keptTitle.letGo()">{{ say('common.letItGo') }}</button>
  </p>
  <p v-if="meanwhile && changed" class="wait" role="status">
    <RichWords :words="say.parts('pageBench.meanwhileSomebodySetItTo', { title: page.title })"
      ><template #button="{ words }"
        ><button class="text-link" type="button" @click="((title = page.title), (meanwhile = false))">
          {{ words }}
        </button></template
      ></RichWords
    >
  </p>
  <p v-if="page.textOf !== null" class="wait">
    {{ say('pageBench.itsTextIsThatOf', { textOf: page.textOf }) }}
    <button
      v-if="session.mayEdit"
      class="text-link"
      type="button"
      @click="site.decide({ kind: 'text-of-file', page: page.id })"
    >
      {{ say('pageBench.takeTheTextOfIts') }}
    </button>
  </p>
  <p v-if="page.importedTitle !== null" class="quiet">
    {{ say('pageBench.inTheImportedFile', { importedTitle: page.importedTitle || 'none' }) }}
  </p>
  <form class="line" @submit.prevent="rename">
    <LabelledField
      v-model="address"
      class="address"
      :label="say('common.address')"
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
      >{{ say('pageBench.move') }}</v-btn
    >
  </form>
  <p v-if="keptAddress.wasKept.value && moved" class="wait" role="status">
    {{ say('pageBench.whatYouTypedBeforeIs') }}
    <button class="text-link" type="button" @click="keptAddress.letGo()">{{ say('common.letItGo') }}</button>
  </p>
  <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
  <MovesList v-if="preview" :preview="preview" />
  <div v-if="session.mayEdit" class="acts">
    <v-btn
      v-if="!page.isHome"
      :disabled="!page.isReady"
      :title="page.isReady ? undefined : say('pageBench.aPageThatIsNot')"
      @click="emit('home')"
      >{{ say('pageBench.useAsHomePage') }}<KeyHint keys="H"
    /></v-btn>
    <v-btn v-if="!page.isHome" @click="site.decide({ kind: 'ready', page: page.id, ready: !page.isReady })"
      >{{ page.isReady ? say('pageBench.notReady') : say('pageBench.markAsReady') }}<KeyHint keys="N"
    /></v-btn>
    <v-btn @click="site.decide({ kind: 'in-menus', page: page.id, shown: !page.inMenus })"
      >{{ page.inMenus ? say('pageBench.leaveOutOfMenus') : say('pageBench.showInMenus') }}<KeyHint keys="M"
    /></v-btn>
    <v-btn @click="duplicate">{{ say('pageBench.duplicate') }}</v-btn>
    <v-btn color="error" @click="emit('remove')">{{ say('pageBench.remove') }}<KeyHint keys="Del" /></v-btn>
  </div>
  <ul v-if="page.menuWords.length > 0" class="in-menus">
    <li v-for="(each, index) in page.menuWords" :key="`${each.menu} ${index}`">
      {{ say('pageBench.says', { name: speak(each.name), label: each.label })
      }}<button
        v-if="session.mayEdit"
        class="text-link"
        type="button"
        @click="router.replace({ query: { show: 'menus', item: page.id, menu: each.menu } })"
      >
        {{ say('pageBench.renameItThere') }}
      </button>
    </li>
  </ul>
  <p v-else-if="session.mayEdit && page.inMenus" class="quiet">
    {{ say('pageBench.inNoMenu') }}
    <button class="text-link" type="button" @click="router.replace({ query: { show: 'menus', add: page.id } })">
      {{ say('pageBench.addItToOne') }}
    </button>
  </p>
  <p v-if="page.isHome" class="quiet">
    <b>{{ say('pageBench.thisIsTheHomePage') }}</b> {{ say('pageBench.anotherPageTakesItsPlace') }}
  </p>
  <p v-else-if="!page.isReady" class="quiet">
    {{ say('pageBench.itIsNotPublishedMenus') }}
  </p>
  <hr class="rule" />
  <ListingPanel :page="page" :pages="pages" />
  <PageInside :page="page" :version="version" />
  <hr class="rule" />
  <p class="quiet">
    <RichWords
      :words="
        say.parts('pageBench.addedHerePagesLeadHere', {
          isAdded: page.isAdded,
          noLinksIn: page.linksIn === 0,
          linksIn: page.linksIn,
          sourcePath: page.sourcePath,
        })
      "
    />
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
