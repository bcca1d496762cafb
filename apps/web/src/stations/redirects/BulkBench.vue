<script setup lang="ts">
/** Many old addresses settled in one step, with a list of all that will be taken. */
import type { RedirectRow } from '@fastigium/contracts/api/redirects';
import { computed, ref, watch } from 'vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { formatFigure } from '../../logic/format.ts';
import { useSite } from '../../stores/site.ts';
import { listBranches, prepareBulkDecision, filterConcerned, type BulkAnswer } from './bulk.ts';
import { SURE } from './coverage.ts';
import ProbabilityBar from './ProbabilityBar.vue';
import { say } from './words.ts';

const props = defineProps<{ rows: readonly RedirectRow[]; home: string | undefined }>();
const emit = defineEmits<{ leave: [] }>();
const site = useSite();
const branch = ref('');
const answer = ref<BulkAnswer>('suggested');
const least = ref(SURE);
const left = ref(new Set<string>());
const busy = ref(false);
const MOST_SHOWN = 300;
const LEASTS = [
  { value: 0.97, label: '0.97' },
  { value: SURE, label: '0.90' },
  { value: 0.75, label: '0.75' },
  { value: 0.5, label: '0.50' },
];
const branches = computed(() => listBranches(props.rows, answer.value));
const listed = computed(() =>
  filterConcerned(props.rows, { branch: branch.value, answer: answer.value, least: least.value }),
);
const taken = computed(() => listed.value.filter(({ from }) => !left.value.has(from)));
watch([branch, answer, least], () => (left.value = new Set()));
// A folder that holds none of them is no choice any more.
watch(branches, (now) => {
  if (branch.value !== '' && !now.some(({ path }) => path === branch.value)) branch.value = '';
});

function toggle(from: string): void {
  const next = new Set(left.value);
  if (!next.delete(from)) next.add(from);
  left.value = next;
}

async function take(): Promise<void> {
  busy.value = true;
  if (await site.decide(prepareBulkDecision(taken.value, answer.value, props.home))) emit('leave');
  busy.value = false;
}
</script>

<template>
  <form @submit.prevent="take">
    <h1 class="title-face">{{ say('bulkBench.manyAtOnce') }}</h1>
    <p class="quiet">{{ say('bulkBench.oneStepWhichOneStep') }}</p>
    <label class="which"
      >{{ say('bulkBench.which') }}
      <select v-model="branch">
        <option value="">{{ say('bulkBench.allThatAreOpen', { isRemoved: answer === 'removed' }) }}</option>
        <option v-for="each in branches" :key="each.path" :value="each.path">
          {{ each.path }} ({{ formatFigure(each.open) }})
        </option>
      </select></label
    >
    <h2 class="heading">{{ say('bulkBench.whatBecomesOfThem') }}</h2>
    <SegmentedChoice
      v-model="answer"
      :label="say('bulkBench.whatBecomesOfThem')"
      :options="[
        { value: 'suggested', label: say('bulkBench.asSuggested') },
        { value: 'home', label: say('common.homePage') },
        { value: 'gone', label: say('bulkBench.gone410') },
        { value: 'removed', label: say('bulkBench.removeWhatIsSettled') },
      ]"
    />
    <template v-if="answer === 'suggested'">
      <h2 class="heading next">
        {{ say('bulkBench.atLeastThisProbable') }} <span class="quiet">{{ say('bulkBench.at09095To') }}</span>
      </h2>
      <SegmentedChoice v-model="least" :label="say('bulkBench.theLeastProbability')" :options="LEASTS" />
    </template>
    <p v-if="answer === 'home' && taken.length > 5" class="caution">
      {{ say('bulkBench.aHomePageIsBetter') }}
    </p>
    <p v-if="answer === 'removed'" class="quiet">{{ say('bulkBench.theyAreKeptUnderPages') }}</p>
    <div class="acts">
      <v-btn
        type="submit"
        variant="flat"
        :color="answer === 'removed' ? 'error' : 'primary'"
        height="36"
        :disabled="taken.length === 0 || (answer === 'home' && home === undefined)"
        :loading="busy"
        >{{
          answer === 'removed'
            ? say('bulkBench.removeRedirects', { taken: taken.length })
            : say('bulkBench.settleAddresses', { taken: taken.length })
        }}</v-btn
      >
      <v-btn height="36" @click="emit('leave')">{{ say('common.leave') }}</v-btn>
    </div>
    <ul :aria-label="say('bulkBench.whatWillBeTaken')">
      <li v-for="row in listed.slice(0, MOST_SHOWN)" :key="row.from">
        <label
          ><input type="checkbox" :checked="!left.has(row.from)" :aria-label="row.from" @change="toggle(row.from)" />
          <span class="words"
            ><span class="address one-line" :title="row.from">{{ row.from }}</span
            ><span v-if="answer === 'suggested'" class="quiet one-line"
              >→ {{ row.suggestion?.address }}, {{ row.suggestion?.title }}</span
            ></span
          >
          <ProbabilityBar v-if="answer === 'suggested'" :probability="row.suggestion?.probability"
        /></label>
      </li>
    </ul>
    <p v-if="listed.length > MOST_SHOWN" class="quiet">
      {{ say('bulkBench.andMoreWhichWillBe', { listed: listed.length - MOST_SHOWN }) }}
    </p>
    <p v-if="listed.length === 0" class="quiet">{{ say('common.noneIsLikeThis') }}</p>
  </form>
</template>

<style scoped>
p {
  margin: 4px 0;
}
.which {
  display: grid;
  gap: 4px;
  font-size: 12px;
  color: var(--ink-5);
  margin-block: 12px;
}
select {
  font: inherit;
  font-size: 13px;
  color: var(--ink-9);
  background: var(--bench);
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  padding: 4px 6px;
  max-width: 100%;
}
.next {
  margin-top: 14px;
}
.caution {
  color: var(--ochre-dark);
}
.acts {
  display: flex;
  gap: 8px;
  margin-block: 14px 10px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: var(--line);
}
li {
  border-bottom: var(--line);
}
li label {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 10px;
  align-items: center;
  padding: 5px 0;
}
.words {
  display: block;
  min-width: 0;
  line-height: 18px;
}
.words > * {
  display: block;
}
</style>
