<script setup lang="ts">
/** One line of the head: what it says, for which pages, and what becomes of the page's own. */
import type { PageHead } from '@fastigium/contracts/api/metadata';
import { computed, onMounted, ref, watch } from 'vue';
import LabelledField from '../../components/LabelledField.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import DataCheck from './site/DataCheck.vue';
import { lineTitle } from './lineNames.ts';
import { addAsset } from '../../api/asset.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';
import { useSetHead } from './metadata.ts';
import { inBackground } from '../../stores/background.ts';

const props = defineProps<{ name: string; page: string; head: PageHead }>();
const emit = defineEmits<{ leave: [] }>();
const set = useSetHead();
const site = useSite();
const notices = useNotices();
const form = ref<HTMLFormElement>();
onMounted(() => form.value?.scrollIntoView({ block: 'nearest' }));
const isNew = computed(() => props.name === '');
const wanted = ref('');
const line = computed(() =>
  props.head.lines.find(({ name }) => name === (props.name === 'data' ? 'json:data' : props.name)),
);
/** Code and data are texts of several lines. */
const isText = computed(() => /^(code:|data$)/.test(props.name));
const text = ref('');
const scope = ref<'page' | 'branch' | 'everywhere'>('page');
const title = computed(() => (isNew.value ? 'Another plain tag' : lineTitle(props.name)));
watch(
  () => props.name,
  () => {
    text.value = line.value?.text ?? '';
    scope.value = 'page';
  },
  { immediate: true },
);

const name = computed(() => (isNew.value ? `meta:${wanted.value.trim().toLowerCase()}` : props.name));
const at = computed(() =>
  scope.value === 'everywhere' ? { kind: 'everywhere' as const } : { kind: scope.value, page: props.page },
);
const isSetHere = computed(() =>
  props.head.settings.some((each) => each.name === props.name && each.scope.kind === 'page'),
);
const isTitle = computed(() => props.name === 'title');
/** A title belongs to one page; all other lines may hold further. */
const scopes = computed(() => [
  { value: 'page' as const, label: 'This page' },
  ...(isTitle.value
    ? []
    : [
        { value: 'branch' as const, label: 'This branch' },
        { value: 'everywhere' as const, label: 'Every page' },
      ]),
]);
const choice = computed(() => line.value?.conflict ?? undefined);

async function save(value: string | false | null, own: 'kept' | 'replaced' | null = null): Promise<void> {
  if (await set([{ scope: at.value, name: name.value, text: value, own }])) emit('leave');
}
async function addPicture(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = '';
  if (!file || !site.overview) return;
  try {
    text.value = (await addAsset(site.overview.id, file, 'pictures', site.overview.version)).address;
    await site.refresh();
  } catch (error) {
    notices.problem(error);
  }
}
const isPicture = computed(() => props.name === 'meta:og:image');
const decide = (own: 'kept' | 'replaced') =>
  inBackground(
    set([{ scope: { kind: 'page', page: props.page }, name: props.name, text: null, own }]).then(
      (done) => done && emit('leave'),
    ),
  );
</script>

<template>
  <form ref="form" class="line" @submit.prevent="save(text)" @keydown.esc.stop="emit('leave')">
    <h2 class="heading">
      {{ title }}<button class="text-link quiet" type="button" @click="emit('leave')">Leave</button>
    </h2>
    <div v-if="choice" class="conflict">
      <p>
        <b>The page has a tag of its own.</b> It says “{{ line?.own.join('”, “') }}”, and
        {{ choice.text === false ? 'nothing is to stand there' : `“${choice.text}”` }}
        {{ choice.from === 'computed' ? 'would be computed' : `is set for the ${choice.from}` }}.
      </p>
      <div class="acts">
        <v-btn @click="decide('kept')">Keep the page’s own</v-btn
        ><v-btn @click="decide('replaced')">Use what is set</v-btn>
      </div>
    </div>
    <LabelledField
      v-if="isNew"
      v-model="wanted"
      class="address"
      label="Name, such as author or rating"
      autofocus
      maxlength="100"
    />
    <template v-if="isText">
      <label class="quiet" for="line-text">{{ title }}</label>
      <textarea id="line-text" v-model="text" rows="6" spellcheck="false" />
    </template>
    <LabelledField v-else v-model="text" :label="isNew ? 'What it says' : title" :autofocus="!isNew" maxlength="4000" />
    <template v-if="isPicture">
      <label class="file text-link"
        ><input class="visually-hidden" type="file" accept="image/*" @change="addPicture" />Add a picture from this
        computer …</label
      >
      <p class="quiet">An address of the site, such as /pictures/house.jpg, at least 1200 by 630 pixels.</p>
    </template>
    <SegmentedChoice v-model="scope" label="For which pages" :options="scopes" />
    <div class="acts">
      <v-btn
        type="submit"
        variant="flat"
        color="primary"
        :disabled="text.trim() === '' || (isNew && wanted.trim() === '')"
        >Set</v-btn
      >
      <v-btn v-if="!isNew && !isTitle" @click="save(false)">Leave it out</v-btn>
      <v-btn v-if="isSetHere" @click="((scope = 'page'), save(null))">Back to inherited</v-btn>
    </div>
    <DataCheck v-if="name === 'data'" :text="text" />
    <p v-if="scope !== 'page' && !isText" class="quiet">
      Pages with such a tag of their own keep it, and are told as conflicts.
      <button class="text-link" type="button" :disabled="text.trim() === ''" @click="save(text, 'replaced')">
        Set it there too
      </button>
    </p>
  </form>
</template>

<style scoped>
.line {
  display: grid;
  gap: 10px;
  border: 1px solid var(--stone-3);
  border-left: 3px solid var(--lapis);
  padding: 10px 12px;
  margin: 0 0 12px;
}
.heading,
p {
  margin: 0;
}
textarea {
  font-family: var(--face-address);
  font-size: 12px;
  line-height: 18px;
  color: inherit;
  background: var(--bench);
  border: 1px solid var(--stone-5);
  border-radius: 3px;
  padding: 8px 10px;
  resize: vertical;
}
.file {
  cursor: pointer;
}
.file:focus-within {
  outline: 2px solid var(--lapis);
}
.acts {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
}
.conflict {
  background: var(--ochre-tint);
  padding: 8px 10px;
  display: grid;
  gap: 8px;
  overflow-wrap: anywhere;
}
</style>
