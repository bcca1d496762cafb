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
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

const props = defineProps<{ each: JudgedRow; metadata: Metadata }>();
const emit = defineEmits<{ back: []; take: [] }>();
const limits = defineModel<Limits>('limits', { required: true });
const site = useSite();
const session = useSession();
const set = useSetHead();
const head = shallowRef<PageHead>();
/** Lines that a page may have, and that are not there to be picked. */
const MORE = {
  'meta:og:title': say('pageHeadBench.shareTitle'),
  'meta:og:image': say('pageHeadBench.sharePicture'),
  'meta:robots': say('pageHeadBench.robots'),
  'link:canonical': say('pageHeadBench.canonical'),
  'code:head': say('pageHeadBench.code'),
  data: say('pageHeadBench.data'),
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
  <h1 class="title-face">{{ row.label || say('pageHeadBench.pageWithoutATitle') }}</h1>
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
    {{ say('pageHeadBench.itsFirstHeadingSays', { suggestedTitle: row.suggestedTitle }) }}
    <button
      class="text-link"
      type="button"
      @click="set([{ scope: { kind: 'page', page: row.id }, name: 'title', text: row.suggestedTitle }])"
    >
      {{ say('pageHeadBench.takeItAsTitle') }}
    </button>
  </p>
  <form class="description" @submit.prevent="save">
    <label class="quiet" for="page-description">{{
      say('pageHeadBench.descriptionLetters', { description: [...description.trim()].length })
    }}</label>
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
        >{{ say('common.set') }}</v-btn
      >
      <v-btn v-if="row.suggestedDescription !== '' && row.description.text === ''" @click="emit('take')"
        >{{ say('pageHeadBench.takeTheFirstParagraph') }}<KeyHint keys="T"
      /></v-btn>
      <span v-if="row.description.text !== ''" class="quiet">{{
        row.description.from === 'imported'
          ? say('pageHeadBench.asImported')
          : say('pageHeadBench.setForThis', { from: row.description.from })
      }}</span>
    </div>
    <p v-if="row.suggestedDescription !== '' && row.description.text === ''" class="quiet suggestion">
      {{ say('pageHeadBench.suggestedFromThePage', { suggestedDescription: row.suggestedDescription }) }}
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
      {{ say('pageHeadBench.effectiveHead')
      }}<span class="quiet">{{
        head.live === null ? say('common.notLiveYet') : say('pageHeadBench.draftWithWhatIsLive')
      }}</span>
    </h2>
    <HeadSource :head="head" :may-edit="session.mayEdit" @pick="(name) => (line = name)" />
    <p v-if="session.mayEdit" class="more">
      <span class="quiet">{{ say('common.set') }}</span><button
        v-for="(words, name) in MORE"
        :key="name"
        class="text-link"
        type="button"
        @click="line = String(name)"
      >
        {{ words }}</button
      ><button class="text-link" type="button" @click="line = ''">{{ say('pageHeadBench.anotherPlainTag') }}</button>
    </p>
    <p v-if="problem" class="wrong" role="status">
      {{
        say('pageHeadBench.readBackFromTheHost', { release: metadata.proof?.release, problem: speak(problem.problem) })
      }}
    </p>
    <ul v-if="head.dataProblems.length > 0" class="problems">
      <li v-for="(fault, index) in head.dataProblems" :key="index">
        <span v-if="fault.at" class="address">{{ fault.at }}: </span>{{ speak(fault.message) }}
      </li>
    </ul>
    <h2 class="heading share">{{ say('pageHeadBench.shareCard') }}</h2>
    <ShareCard
      :title="head.share.title"
      :description="head.share.description"
      :picture="picture"
      :width-px="head.share.widthPx"
      :height-px="head.share.heightPx"
      :host="shownUrl.split(' › ')[0] ?? ''"
    />
    <p v-if="head.translations.length > 0" class="quiet">
      {{ say('pageHeadBench.inOtherLanguages') }}
      <template v-for="(other, index) in head.translations.filter(({ id }) => id !== row.id)" :key="other.id"
        >{{ index > 0 ? ', ' : '' }}{{ other.language }} <span class="address">{{ other.address }}</span></template
      >
    </p>
    <details class="quiet">
      <summary>{{ say('pageHeadBench.whereLinesAreCut') }}</summary>
      <label
        >{{ say('pageHeadBench.titlesAt') }}
        <input v-model.number="limits.titlePx" type="number" min="100" max="2000" />
        {{ say('pageHeadBench.px') }}</label
      >
      <label
        >{{ say('pageHeadBench.descriptionsAt') }}
        <input v-model.number="limits.descriptionLetters" type="number" min="50" max="1000" />
        {{ say('pageHeadBench.letters') }}</label
      >
      <p>{{ say('pageHeadBench.n600PxAt20Px') }}</p>
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
