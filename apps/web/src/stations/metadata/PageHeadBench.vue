<script setup lang="ts">
/** One page as machines see it: how it would be shown, and its head line by line. */
import { metadataApi, type Metadata, type PageHead } from '@fastigium/contracts/api/metadata';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../../api/client.ts';
import KeyHint from '../../components/KeyHint.vue';
import { useReadAgain } from '../../stores/readAgain.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { usePreviewOrigins } from '../shared/previewOrigin.ts';
import HeadSource from './HeadSource.vue';
import type { JudgedRow, Limits } from './judging.ts';
import LineEditor from './LineEditor.vue';
import { useSetHead } from './metadata.ts';
import ResultPreview from './ResultPreview.vue';
import ShareCard from './ShareCard.vue';
import { speak } from '../../words.ts';

const props = defineProps<{ each: JudgedRow; metadata: Metadata }>();
const emit = defineEmits<{ back: []; take: [] }>();
const limits = defineModel<Limits>('limits', { required: true });
const site = useSite();
const session = useSession();
const set = useSetHead();
const head = shallowRef<PageHead>();
/** Lines that a page may have, and that are not there to be picked. */
const MORE = {
  'meta:og:title': 'share title',
  'meta:og:image': 'share picture',
  'meta:robots': 'robots',
  'link:canonical': 'canonical',
  'code:head': 'code',
  data: 'data',
} as const;
const row = computed(() => props.each.row);
const description = ref('');
const line = ref<string>();
useReadAgain(async (id) => {
  head.value = await call(metadataApi.page, { params: { site: id, page: row.value.id } });
});

// What is being typed is not thrown away when somebody else sets it meanwhile.
watch(
  () => row.value.description.text,
  (now, before) => {
    if (description.value === (before ?? '')) description.value = now;
  },
  { immediate: true },
);
const changed = computed(() => description.value.trim() !== row.value.description.text);

async function save(): Promise<void> {
  if (
    !changed.value ||
    (await set([
      {
        scope: { kind: 'page', page: row.value.id },
        name: 'meta:description',
        text: description.value.trim() === '' ? null : description.value.trim(),
      },
    ]))
  )
    emit('back');
}

const origins = usePreviewOrigins();
const picture = computed(() => {
  const image = head.value?.share.image;
  return image == null ? undefined : image.startsWith('/') ? origins.value && origins.value.seen + image : undefined;
});
const shownUrl = computed(() =>
  `${(props.metadata.origin ?? site.overview?.liveUrl?.replace(/\/$/, '') ?? '').replace(/^https?:\/\//, '')}${row.value.address}`
    .replace(/\/$/, '')
    .replaceAll('/', ' › '),
);
const problem = computed(() =>
  props.metadata.proof?.differing.find(
    ({ path }) => path === row.value.address.slice(1) || `/${path.replace(/index\.html$/, '')}` === row.value.address,
  ),
);
</script>

<template>
  <h1 class="title-face">{{ row.label || 'Page without a title' }}</h1>
  <p class="address quiet where">{{ row.address }}</p>
  <ResultPreview
    :title="row.title.text"
    :description="description || row.description.text"
    :url="shownUrl"
    :limits="limits"
  />
  <p
    v-if="session.mayEdit && row.suggestedTitle !== '' && (each.title === 'missing' || each.title === 'doubled')"
    class="quiet suggestion"
  >
    Its first heading says “{{ row.suggestedTitle }}”.
    <button
      class="text-link"
      type="button"
      @click="set([{ scope: { kind: 'page', page: row.id }, name: 'title', text: row.suggestedTitle }])"
    >
      Take it as title
    </button>
  </p>
  <form class="description" @submit.prevent="save">
    <label class="quiet" for="page-description">Description, {{ [...description.trim()].length }} letters</label>
    <textarea
      id="page-description"
      v-model="description"
      rows="3"
      maxlength="2000"
      :readonly="!session.mayEdit"
      @keydown.esc="((description = row.description.text), emit('back'))"
      @keydown.ctrl.enter.prevent="save"
    />
    <div v-if="session.mayEdit" class="acts">
      <v-btn
        type="submit"
        :variant="changed ? 'flat' : 'outlined'"
        :color="changed ? 'primary' : undefined"
        :disabled="!changed"
        >Set</v-btn
      >
      <v-btn v-if="row.suggestedDescription !== '' && row.description.text === ''" @click="emit('take')"
        >Take the first paragraph<KeyHint keys="T"
      /></v-btn>
      <span v-if="row.description.text !== ''" class="quiet">{{
        row.description.from === 'imported' ? 'as imported' : `set for this ${row.description.from}`
      }}</span>
    </div>
    <p v-if="row.suggestedDescription !== '' && row.description.text === ''" class="quiet suggestion">
      Suggested from the page: “{{ row.suggestedDescription }}”
    </p>
  </form>
  <template v-if="head">
    <LineEditor
      v-if="line !== undefined"
      :key="line"
      :name="line"
      :page="row.id"
      :head="head"
      @leave="line = undefined"
    />
    <h2 class="heading">
      Effective head<span class="quiet">{{
        head.live === null ? 'not live yet' : 'draft, with what is live struck out'
      }}</span>
    </h2>
    <HeadSource :head="head" :may-edit="session.mayEdit" @pick="(name) => (line = name)" />
    <p v-if="session.mayEdit" class="more">
      <span class="quiet">Set</span
      ><button v-for="(words, name) in MORE" :key="name" class="text-link" type="button" @click="line = String(name)">
        {{ words }}</button
      ><button class="text-link" type="button" @click="line = ''">another plain tag</button>
    </p>
    <p v-if="problem" class="wrong" role="status">
      Read back from the host after release {{ metadata.proof?.release }}: {{ speak(problem.problem) }}.
    </p>
    <ul v-if="head.dataProblems.length > 0" class="problems">
      <li v-for="(fault, index) in head.dataProblems" :key="index">
        <span v-if="fault.at" class="address">{{ fault.at }}: </span>{{ speak(fault.message) }}
      </li>
    </ul>
    <h2 class="heading share">Share card</h2>
    <ShareCard
      :title="head.share.title"
      :description="head.share.description"
      :picture="picture"
      :width-px="head.share.widthPx"
      :height-px="head.share.heightPx"
      :host="shownUrl.split(' › ')[0] ?? ''"
    />
    <p v-if="head.translations.length > 0" class="quiet">
      In other languages:
      <template v-for="(other, index) in head.translations.filter(({ id }) => id !== row.id)" :key="other.id"
        >{{ index > 0 ? ', ' : '' }}{{ other.language }} <span class="address">{{ other.address }}</span></template
      >
    </p>
    <details class="quiet">
      <summary>Where lines are cut</summary>
      <label>Titles at <input v-model.number="limits.titlePx" type="number" min="100" max="2000" /> px</label>
      <label
        >Descriptions at
        <input v-model.number="limits.descriptionLetters" type="number" min="50" max="1000" /> letters</label
      >
      <p>600 px at 20 px and 155 letters are common practice; search engines promise neither.</p>
    </details>
  </template>
</template>

<style scoped>
p {
  margin: 0 0 8px;
}
.where {
  margin: 2px 0 0;
}
.description {
  display: grid;
  gap: 4px;
  margin-bottom: 14px;
}
textarea {
  font: inherit;
  color: inherit;
  background: var(--bench);
  border: 1px solid var(--stone-5);
  border-radius: 3px;
  padding: 7px 10px;
  resize: vertical;
}
.acts {
  display: flex;
  gap: 8px;
  align-items: center;
  flex-wrap: wrap;
  margin-top: 4px;
}
.suggestion {
  font-style: italic;
}
.more {
  display: flex;
  gap: 14px;
  flex-wrap: wrap;
  margin-top: 8px;
  font-size: 13px;
}
.share {
  margin-top: 14px;
}
.problems {
  margin: 0 0 8px;
  padding-inline-start: 18px;
  color: var(--ochre-dark);
  font-size: 12px;
}
details label {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  margin: 6px 14px 6px 0;
}
details input {
  width: 64px;
  font: inherit;
  color: var(--ink-9);
  background: var(--bench);
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  padding: 2px 4px;
}
</style>
