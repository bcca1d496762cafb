<script setup lang="ts">
/** Adding to the tree: a page after the pattern of another, a group, a link to another site. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { computed, ref } from 'vue';
import LabelledField from '../../components/LabelledField.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { useSite } from '../../stores/site.ts';

const props = defineProps<{ pages: readonly PageRow[]; beside: PageRow | undefined }>();
const emit = defineEmits<{ made: [id: string | undefined]; leave: [] }>();
const site = useSite();
const kind = ref<'page' | 'group' | 'link'>('page');
const where = ref<'inside' | 'after'>('after');
const title = ref('');
const text = ref('');
const url = ref('https://');
const working = ref(false);

const pattern = computed(() =>
  props.beside?.kind === 'page' ? props.beside : props.pages.find((page) => page.kind === 'page' && !page.isHome),
);
const place = computed(() => {
  if (!props.beside) return { parent: null, after: null };
  if (where.value === 'after') return { parent: props.beside.parent, after: props.beside.id };
  return {
    parent: props.beside.id,
    after: props.pages.filter(({ parent }) => parent === props.beside?.id).at(-1)?.id ?? null,
  };
});
const canAdd = computed(() => title.value.trim() !== '' && (kind.value !== 'page' || pattern.value !== undefined));

async function add(): Promise<void> {
  working.value = true;
  const common = { title: title.value, ...place.value };
  const made = await site.make(
    kind.value === 'group'
      ? { kind: 'add-group', ...common }
      : kind.value === 'link'
        ? { kind: 'add-link', url: url.value, ...common }
        : { kind: 'add-page', text: text.value, like: pattern.value?.id ?? '', ...common },
  );
  working.value = false;
  if (made !== undefined) emit('made', made);
}
</script>

<template>
  <h1 class="title-face">Add to the tree</h1>
  <form class="add" @submit.prevent="add">
    <SegmentedChoice
      v-model="kind"
      label="What to add"
      :options="[
        { value: 'page', label: 'Page' },
        { value: 'group', label: 'Group' },
        { value: 'link', label: 'Outside link' },
      ]"
    />
    <LabelledField
      v-model="title"
      :label="kind === 'page' ? 'Heading of the page' : 'Name'"
      maxlength="1000"
      autofocus
    />
    <LabelledField v-if="kind === 'link'" v-model="url" label="Where it leads" class="address" maxlength="2000" />
    <template v-if="kind === 'page'">
      <div class="field">
        <label for="add-text">Text, paragraphs apart by an empty line</label>
        <v-textarea id="add-text" v-model="text" rows="4" maxlength="20000" hide-details />
      </div>
      <p v-if="pattern" class="quiet">Header, menus and foot are those of “{{ pattern.label }}”.</p>
    </template>
    <SegmentedChoice
      v-if="beside"
      v-model="where"
      label="Where"
      :options="[
        { value: 'after', label: `After “${beside.label}”` },
        { value: 'inside', label: `Under “${beside.label}”` },
      ]"
    />
    <div class="buttons">
      <v-btn type="submit" variant="flat" color="primary" :disabled="!canAdd" :loading="working">Add</v-btn>
      <v-btn @click="$emit('leave')">Leave it</v-btn>
    </div>
  </form>
</template>

<style scoped>
.add {
  display: grid;
  gap: 14px;
  margin-top: 12px;
}
.field {
  display: grid;
  gap: 4px;
}
label {
  font-size: 12px;
  color: var(--ink-5);
}
.buttons {
  display: flex;
  gap: 10px;
}
p {
  margin: 0;
}
</style>
