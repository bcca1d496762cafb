<script setup lang="ts">
/** One line of the head: what it says, for which pages, and what becomes of the page's own. */
import type { PageHead } from '@fastigium/contracts/api/metadata';
import { computed, ref, watch } from 'vue';
import LabelledField from '../../components/LabelledField.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { lineTitle } from './lineNames.ts';
import { useSetHead } from './metadata.ts';

const props = defineProps<{ name: string; page: string; head: PageHead }>();
const emit = defineEmits<{ leave: [] }>();
const set = useSetHead();
const isNew = computed(() => props.name === '');
const wanted = ref('');
const line = computed(() => props.head.lines.find(({ name }) => name === props.name));
const text = ref('');
const scope = ref<'page' | 'branch' | 'everywhere'>('page');
const title = computed(() => (isNew.value ? 'Another plain tag' : lineTitle(props.name)));
watch(() => props.name, () => { text.value = line.value?.text ?? ''; scope.value = 'page'; }, { immediate: true });

const name = computed(() => (isNew.value ? `meta:${wanted.value.trim().toLowerCase()}` : props.name));
const at = computed(() => (scope.value === 'everywhere' ? { kind: 'everywhere' as const } : { kind: scope.value, page: props.page }));
const isSetHere = computed(() => props.head.settings.some((each) => each.name === props.name && each.scope.kind === 'page'));
const isTitle = computed(() => props.name === 'title');
/** A title belongs to one page; all other lines may hold further. */
const scopes = computed(() => [{ value: 'page' as const, label: 'This page' }, ...(isTitle.value ? [] : [{ value: 'branch' as const, label: 'This branch' }, { value: 'everywhere' as const, label: 'Every page' }])]);
const choice = computed(() => line.value?.conflict ?? undefined);

async function save(value: string | false | null, own: 'kept' | 'replaced' | null = null): Promise<void> {
  if (await set([{ scope: at.value, name: name.value, text: value, own }])) emit('leave');
}
const decide = (own: 'kept' | 'replaced') => void set([{ scope: { kind: 'page', page: props.page }, name: props.name, text: null, own }]).then((done) => done && emit('leave'));
</script>

<template>
  <form class="line" @submit.prevent="save(text)" @keydown.esc.stop="emit('leave')">
    <h2 class="heading">{{ title }}<button class="text-link quiet" type="button" @click="emit('leave')">Leave</button></h2>
    <div v-if="choice" class="conflict">
      <p><b>The page has a tag of its own.</b> It says “{{ line?.own.join('”, “') }}”, and {{ choice.text === false ? 'nothing is to stand there' : `“${choice.text}”` }} {{ choice.from === 'computed' ? 'would be computed' : `is set for the ${choice.from}` }}.</p>
      <div class="acts"><v-btn @click="decide('kept')">Keep the page’s own</v-btn><v-btn @click="decide('replaced')">Use what is set</v-btn></div>
    </div>
    <LabelledField v-if="isNew" v-model="wanted" class="address" label="Name, such as author or rating" autofocus maxlength="100" />
    <LabelledField v-model="text" :label="isNew ? 'What it says' : title" :autofocus="!isNew" maxlength="4000" />
    <SegmentedChoice v-model="scope" label="For which pages" :options="scopes" />
    <div class="acts">
      <v-btn type="submit" variant="flat" color="primary" :disabled="text.trim() === '' || (isNew && wanted.trim() === '')">Set</v-btn>
      <v-btn v-if="!isNew && !isTitle" @click="save(false)">Leave it out</v-btn>
      <v-btn v-if="isSetHere" @click="scope = 'page', save(null)">Back to inherited</v-btn>
    </div>
    <p v-if="scope !== 'page'" class="quiet">Pages with such a tag of their own keep it, and are told as conflicts. <button class="text-link" type="button" :disabled="text.trim() === ''" @click="save(text, 'replaced')">Set it there too</button></p>
  </form>
</template>

<style scoped>
.line { display: grid; gap: 10px; border: 1px solid var(--stone-3); border-left: 3px solid var(--lapis); padding: 10px 12px; margin: 0 0 12px; }
.heading, p { margin: 0; }
.acts { display: flex; gap: 8px; flex-wrap: wrap; }
.conflict { background: var(--ochre-tint); padding: 8px 10px; display: grid; gap: 8px; overflow-wrap: anywhere; }
</style>
