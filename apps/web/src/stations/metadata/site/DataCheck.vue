<script setup lang="ts">
/** Structured data as it is typed, against the vocabulary of schema.org. */
import { metadataApi } from '@fastigium/contracts/api/metadata';
import type { AnswerOf } from '@fastigium/contracts/endpoint';
import { useDebounceFn } from '@vueuse/core';
import { ref, watch } from 'vue';
import { call } from '../../../api/client.ts';
import KeystoneMark from '../../../components/KeystoneMark.vue';
import { useNotices } from '../../../stores/notices.ts';
import { useSite } from '../../../stores/site.ts';
import { speak } from '../../../words/index.ts';
import { runInBackground } from '../../../stores/background.ts';
import { say } from '../words.ts';

const props = defineProps<{ text: string }>();
const site = useSite();
const notices = useNotices();
const problems = ref<AnswerOf<typeof metadataApi.checkData>['problems']>();

const check = useDebounceFn(async () => {
  const { text } = props;
  if (site.id === undefined || text.trim() === '') {
    problems.value = undefined;
    return;
  }
  try {
    const answer = await call(metadataApi.checkData, { params: { site: site.id }, body: { text } });
    if (props.text === text) problems.value = answer.problems;
  } catch (error) {
    notices.problem(error);
  }
}, 300);
watch(
  () => props.text,
  () => runInBackground(check()),
  { immediate: true },
);
</script>

<template>
  <template v-if="problems">
    <hr class="rule" />
    <p v-if="problems.length === 0" role="status">
      <KeystoneMark class="mark" mark="verdigris" />{{ say('dataCheck.everyTermIsOneOf') }}
    </p>
    <ul v-else class="problems" role="status">
      <li v-for="(each, index) in problems" :key="index">
        <span v-if="each.at" class="address">{{ each.at }}: </span>{{ speak(each.message) }}
      </li>
    </ul>
  </template>
</template>

<style scoped>
p {
  margin: 0;
}
.mark {
  margin-inline-end: 7px;
  vertical-align: -1px;
}
.problems {
  margin: 0;
  padding-inline-start: 18px;
  color: var(--ochre-dark);
}
</style>
