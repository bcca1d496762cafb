<script setup lang="ts">
/** A document shown in the page, with a plain link beside it for those whose browser does not show it. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import type { PageInside } from '@fastigium/contracts/api/pages';
import { computed, ref } from 'vue';
import { addAsset } from '../../api/asset.ts';
import LabelledField from '../../components/LabelledField.vue';
import { formatSize } from '../../logic/format.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';
import { say } from './words.ts';

const props = defineProps<{ page: PageRow; sections: PageInside['sections'] }>();
const emit = defineEmits<{ done: [] }>();
const site = useSite();
const notices = useNotices();
const file = ref<File>();
const label = ref('');
const after = ref(props.sections.length - 1);
const working = ref(false);
const section = computed(() => props.sections[after.value]);

function onChosen(event: Event): void {
  file.value = (event.target as HTMLInputElement).files?.[0];
  if (file.value && label.value === '')
    label.value = `${file.value.name.replace(/\.[^.]+$/, '').replace(/[-_]+/g, ' ')} (${file.value.name.split('.').at(-1)?.toUpperCase()}, ${formatSize(file.value.size)})`;
}

async function embed(): Promise<void> {
  if (!file.value || site.id === undefined) return;
  working.value = true;
  try {
    const { address } = await addAsset(site.id, file.value, 'documents', site.overview?.version ?? 0);
    await site.refresh();
    const done = await site.decide({
      kind: 'touch',
      touch: {
        kind: 'embed',
        scope: { kind: 'page', page: props.page.id },
        file: address,
        label: label.value,
        mediaType: file.value.type,
        ...(section.value ? { after: { name: section.value.name, nth: section.value.nth } } : {}),
      },
    });
    if (done) emit('done');
  } catch (error) {
    notices.problem(error);
  } finally {
    working.value = false;
  }
}
</script>

<template>
  <form class="embed" @submit.prevent="embed">
    <input
      type="file"
      accept=".pdf,.doc,.docx,.odt,.xls,.xlsx,.ods,.ppt,.pptx,.odp"
      :aria-label="say('embedDocument.theDocument')"
      @change="onChosen"
    />
    <LabelledField v-model="label" :label="say('embedDocument.wordsOfTheLinkBeside')" maxlength="300" />
    <label
      >{{ say('embedDocument.afterTheSection') }}
      <select v-model="after">
        <option v-for="(each, index) in sections" :key="index" :value="index">{{ each.label }}</option>
      </select></label
    >
    <v-btn type="submit" :disabled="!file || label.trim() === ''" :loading="working">{{
      say('embedDocument.embed')
    }}</v-btn>
  </form>
</template>

<style scoped>
.embed {
  display: grid;
  gap: 10px;
  justify-items: start;
  padding: 10px 12px;
  background: var(--stone-1);
  border: var(--line);
  border-radius: 3px;
  margin-bottom: 10px;
}
.embed > .field {
  width: 100%;
}
label {
  display: grid;
  gap: 4px;
  font-size: 12px;
  color: var(--ink-5);
  max-width: 100%;
}
select {
  font: inherit;
  font-size: 13px;
  max-width: 100%;
  padding: 4px;
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  background: var(--bench);
  color: inherit;
}
</style>
