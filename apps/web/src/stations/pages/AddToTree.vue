<script setup lang="ts">
/** Adding to the tree: a page after the pattern of another, a group, a link to another site. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { computed, ref } from 'vue';
import LabelledField from '../../components/LabelledField.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { useSite } from '../../stores/site.ts';
import { say } from './words.ts';

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
  <h1 class="title-face">{{ say('addToTree.addToTheTree') }}</h1>
  <form class="add" @submit.prevent="add">
    <SegmentedChoice
      v-model="kind"
      :label="say('addToTree.whatToAdd')"
      :options="[
        { value: 'page', label: say('common.page') },
        { value: 'group', label: say('addToTree.group') },
        { value: 'link', label: say('addToTree.outsideLink') },
      ]"
    />
    <LabelledField
      v-model="title"
      :label="kind === 'page' ? say('addToTree.headingOfThePage') : say('common.name')"
      maxlength="1000"
      autofocus
    />
    <LabelledField
      v-if="kind === 'link'"
      v-model="url"
      :label="say('addToTree.whereItLeads')"
      class="address"
      maxlength="2000"
    />
    <template v-if="kind === 'page'">
      <div class="field">
        <label for="add-text">{{ say('addToTree.textParagraphsApartByAn') }}</label>
        <v-textarea id="add-text" v-model="text" rows="4" maxlength="20000" hide-details />
      </div>
      <p v-if="pattern" class="quiet">{{ say('addToTree.headerMenusAndFootAre', { label: pattern.label }) }}</p>
    </template>
    <SegmentedChoice
      v-if="beside"
      v-model="where"
      :label="say('common.where')"
      :options="[
        { value: 'after', label: say('addToTree.after', { label: beside.label }) },
        { value: 'inside', label: say('addToTree.under', { label: beside.label }) },
      ]"
    />
    <div class="buttons">
      <v-btn type="submit" variant="flat" color="primary" :disabled="!canAdd" :loading="working">{{
        say('common.add')
      }}</v-btn>
      <v-btn @click="$emit('leave')">{{ say('common.leaveIt') }}</v-btn>
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
