<script setup lang="ts">
/** How all addresses of the site are written, each change seen before it is made. */
import type { draftApi } from '@fastigium/contracts/api/draft';
import { pagesApi, type AddressPreview } from '@fastigium/contracts/api/pages';
import type { AnswerOf } from '@fastigium/contracts/endpoint';
import { ref, watch } from 'vue';
import { call } from '../../api/client.ts';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { useSite } from '../../stores/site.ts';
import MovesList from './MovesList.vue';
import { explain } from '../../words/index.ts';
import { say } from './words.ts';
import RichWords from '../../words/RichWords.ts';

const props = defineProps<{ style: AnswerOf<typeof draftApi.pages>['style'] }>();
const emit = defineEmits<{ leave: [] }>();
const site = useSite();
const chosen = ref(props.style);
const preview = ref<AddressPreview>();
const problem = ref('');
const working = ref(false);
const OPTIONS = [
  { value: 'imported' as const, label: say('addressStyles.asImported') },
  { value: 'slash' as const, label: '/about/' },
  { value: 'bare' as const, label: '/about' },
  { value: 'html' as const, label: '/about.html' },
];

watch(chosen, async (style) => {
  preview.value = undefined;
  problem.value = '';
  if (site.id === undefined || style === props.style) return;
  try {
    const answer = await call(pagesApi.previewStyle, { params: { site: site.id }, body: { style } });
    if (chosen.value === style) preview.value = answer;
  } catch (error) {
    problem.value = explain(error);
  }
});

async function set(): Promise<void> {
  working.value = true;
  const done = await site.decide({ kind: 'address-style', style: chosen.value });
  working.value = false;
  if (done) emit('leave');
}
</script>

<template>
  <h1 class="title-face">{{ say('addressStyles.howAddressesAreWritten') }}</h1>
  <p class="explain">
    <RichWords :words="say.parts('addressStyles.oneWayForTheWhole')"
      ><template #link="{ words }"
        ><RouterLink class="text-link" :to="{ name: 'address' }">{{ words }}</RouterLink></template
      ></RichWords
    >
  </p>
  <SegmentedChoice v-model="chosen" :label="say('addressStyles.howAddressesAreWritten')" :options="OPTIONS" />
  <p v-if="chosen === props.style" class="quiet">
    {{ say('addressStyles.thisIsHowTheyAre') }}
  </p>
  <p v-if="chosen === 'bare'" class="quiet">
    <RichWords :words="say.parts('addressStyles.theFilesAreCalledAbout')" />
  </p>
  <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
  <MovesList v-if="preview" :preview="preview" />
  <div class="buttons">
    <v-btn variant="flat" color="primary" :disabled="!preview" :loading="working" @click="set">{{
      say('addressStyles.writeThemSo')
    }}</v-btn>
    <v-btn @click="$emit('leave')">{{ say('common.leaveIt') }}</v-btn>
  </div>
</template>

<style scoped>
.explain {
  color: var(--ink-7);
  margin: 6px 0 12px;
}
p {
  margin: 8px 0;
}
.buttons {
  display: flex;
  gap: 10px;
  margin-top: 14px;
}
</style>
