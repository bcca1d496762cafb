<script setup lang="ts">
/** Find and replace over the pages shown, with every change in sight before it is made. */
import type { MetadataRow } from '@fastigium/contracts/api/metadata';
import { replaceText } from '@fastigium/core/head';
import { computed, ref } from 'vue';
import LabelledField from '../../components/LabelledField.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { findReplacements } from './judging.ts';
import { useSetHead } from './metadata.ts';
import { say } from './words.ts';

const props = defineProps<{ rows: readonly MetadataRow[] }>();
const emit = defineEmits<{ leave: [] }>();
const set = useSetHead();
const name = ref<'title' | 'meta:description'>('title');
const find = ref('');
const replace = ref('');
const matchCase = ref(false);
const wholeWords = ref(false);
const MOST_SHOWN = 50;
const found = computed(() =>
  findReplacements(props.rows, name.value, (text) =>
    replaceText(text, {
      find: find.value,
      replace: replace.value,
      matchCase: matchCase.value,
      wholeWords: wholeWords.value,
    }),
  ),
);

async function apply(): Promise<void> {
  if (
    await set(
      found.value.map(({ row, name: line, after }) => ({
        scope: { kind: 'page', page: row.id },
        name: line,
        text: after,
      })),
    )
  )
    emit('leave');
}
</script>

<template>
  <form class="form" @submit.prevent="apply" @keydown.esc="emit('leave')">
    <h1 class="title-face">{{ say('replaceBench.findAndReplace') }}</h1>
    <p class="quiet">{{ say('replaceBench.inThePagesThatThe', { rows: rows.length }) }}</p>
    <SegmentedChoice
      v-model="name"
      :label="say('replaceBench.whereToLook')"
      :options="[
        { value: 'title' as const, label: say('replaceBench.titles') },
        { value: 'meta:description' as const, label: say('replaceBench.descriptions') },
      ]"
    />
    <LabelledField v-model="find" :label="say('replaceBench.find')" autofocus />
    <LabelledField v-model="replace" :label="say('replaceBench.replaceBy')" />
    <label class="tick"><input v-model="matchCase" type="checkbox" /> {{ say('replaceBench.sameLetterCase') }}</label>
    <label class="tick"><input v-model="wholeWords" type="checkbox" /> {{ say('replaceBench.wholeWords') }}</label>
    <div class="acts">
      <v-btn type="submit" variant="flat" color="primary" height="36" :disabled="found.length === 0">{{
        say('replaceBench.replaceOnPages', { found: found.length })
      }}</v-btn>
      <v-btn height="36" @click="emit('leave')">{{ say('common.leave') }}</v-btn>
    </div>
    <ul v-if="find !== ''" class="found">
      <li v-for="each in found.slice(0, MOST_SHOWN)" :key="each.row.id">
        <span class="address quiet">{{ each.row.address }}</span><del>{{ each.before }}</del
        ><ins>{{ each.after }}</ins>
      </li>
      <li v-if="found.length > MOST_SHOWN" class="quiet">
        {{ say('replaceBench.andPagesMore', { found: found.length - MOST_SHOWN }) }}
      </li>
      <li v-if="found.length === 0" class="quiet">{{ say('replaceBench.nothingOfWhatIsShown') }}</li>
    </ul>
  </form>
</template>

<style scoped>
.form {
  display: grid;
  gap: 12px;
}
p {
  margin: 0;
}
.tick {
  display: flex;
  gap: 8px;
  align-items: center;
}
.acts {
  display: flex;
  gap: 8px;
}
.found {
  list-style: none;
  margin: 0;
  padding: 0;
}
.found li {
  display: grid;
  padding: 6px 0;
  border-bottom: var(--line);
  overflow-wrap: anywhere;
}
del {
  color: var(--madder);
}
ins {
  color: var(--verdigris-dark);
  text-decoration: none;
}
</style>
