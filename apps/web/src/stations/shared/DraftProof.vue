<script setup lang="ts">
/** What a visitor with an old link gets from the draft, hop by hop. */
import { draftApi, type Proof } from '@fastigium/contracts/api/draft';
import { useDebounceFn } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { call } from '../../api/client.ts';
import { useSite } from '../../stores/site.ts';
import { explain } from '../../words/index.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';

const props = defineProps<{ address: string }>();
const site = useSite();
const proof = ref<Proof>();
const problem = ref('');
let asked = 0;

const ask = async () => {
  const address = props.address.trim();
  if (site.id === undefined || address === '') {
    proof.value = undefined;
    problem.value = '';
    return;
  }
  const mine = (asked += 1);
  try {
    const answer = await call(draftApi.prove, { params: { site: site.id }, body: { address } });
    if (mine === asked) [proof.value, problem.value] = [answer, ''];
  } catch (error) {
    if (mine === asked) [proof.value, problem.value] = [undefined, explain(error)];
  }
};
const askSoon = useDebounceFn(ask, 250);
watch(
  () => props.address,
  () => runInBackground(askSoon()),
);
watch(
  () => site.versions.draft,
  () => runInBackground(ask()),
  { immediate: true },
);

const hops = computed(() => proof.value?.hops.filter(({ location }) => location !== null).length ?? 0);
const end = computed(() => {
  switch (proof.value?.end) {
    case 'page':
      return {
        words:
          hops.value === 0
            ? say('draftProof.answersItself')
            : say('draftProof.hopsLandsOn', { hops: hops.value, title: proof.value.title ?? say('draftProof.aFile') }),
        right: true,
      };
    case 'gone':
      return { words: say('draftProof.goneForGoodOnPurpose'), right: true };
    case 'outside':
      return { words: say('draftProof.leavesForAnotherSite'), right: true };
    case 'loop':
      return { words: say('draftProof.goesRoundInACircle'), right: false };
    case 'missing':
      return {
        words: hops.value === 0 ? say('draftProof.nothingAnswers') : say('draftProof.landsOnNothing'),
        right: false,
      };
    default:
      return undefined;
  }
});
</script>

<template>
  <div class="proof" role="status">
    <p v-if="problem" class="wrong">{{ problem }}</p>
    <p v-else-if="!proof" class="quiet">{{ say('draftProof.writeAnOldAddressTo') }}</p>
    <template v-else>
      <p class="address">{{ say('draftProof.get', { address: proof.hops[0]?.address.replace(/^\/\//, '') }) }}</p>
      <p v-for="hop in proof.hops" :key="hop.address" class="address">
        <b :class="hop.status < 400 || hop.status === 410 ? 'right' : 'wrong'">{{ hop.status }}</b>
        <template v-if="hop.location !== null"> → {{ hop.location }}</template>
      </p>
      <p v-if="end" :class="end.right ? 'quiet' : 'wrong'">{{ end.words }}</p>
    </template>
  </div>
</template>

<style scoped>
.proof {
  display: grid;
  gap: 4px;
}
p {
  margin: 0;
}
</style>
