<script setup lang="ts">
/**
 * Until when each resolver may still give the old answer. The bars are rows of a list with their
 * figures beside them, so that they are read as well as seen.
 */
import { computed } from 'vue';
import { formatDuration } from '../../logic/duration.ts';
import { formatWhen } from '../../logic/format.ts';
import { useAddress } from './address.ts';
import { spreadBars } from './spread.ts';
import { say } from './words.ts';
import RichWords from '../../words/RichWords.ts';

const { view, standing, nowMs } = useAddress();
const spread = computed(() => standing.value?.spread);
const bars = computed(() => (spread.value ? spreadBars(spread.value, nowMs.value) : []));
const changed = computed(() => spread.value?.authorityNewSince != null);
const everyone = computed(() => spread.value?.everyoneBy ?? null);
const isOut = computed(() => everyone.value !== null && Date.parse(everyone.value) > nowMs.value);
</script>

<template>
  <section v-if="spread" class="spread">
    <div class="head">
      <h2 class="heading">{{ say('spreadChart.whenTheNewAnswerReaches') }}</h2>
      <span v-if="view?.lookedAt" class="quiet">{{
        say('spreadChart.askedAgoAgainIn', {
          nowMs: formatDuration(nowMs - Date.parse(view.lookedAt)),
          hasNextLookupAt: Boolean(view.nextLookupAt),
          nextLookupAt: view.nextLookupAt && formatDuration(Date.parse(view.nextLookupAt) - nowMs),
        })
      }}</span>
    </div>
    <ul>
      <li v-for="bar in bars" :key="bar.key">
        <span class="one-line name" :title="bar.name">{{ bar.name }}</span>
        <span class="bar" aria-hidden="true"
          ><span class="old" :class="bar.kind" :style="{ width: `${bar.oldShare * 100}%` }"
        /></span>
        <span class="quiet" :title="bar.detail">{{ bar.words }}</span>
      </li>
    </ul>
    <p v-if="!spread.authorityAnswers" class="foot">
      {{ say('spreadChart.noNameServerAnswersResolvers') }}
    </p>
    <p v-else-if="!changed" class="foot">
      {{ say('spreadChart.theNameServersStillGive') }}
    </p>
    <p v-else-if="isOut" class="foot">
      <RichWords
        :words="
          say.parts('spreadChart.theLastOldAnswerRuns', { everyone: formatWhen(everyone ?? '', new Date(nowMs)) })
        "
      />
    </p>
    <p v-else class="foot">{{ say('spreadChart.everyOldAnswerHasRun') }}</p>
  </section>
</template>

<style scoped>
.spread {
  padding: 8px 20px 6px;
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: 16px;
}
.head .heading {
  margin: 0;
  font-size: 13px;
  color: var(--ink-7);
}
ul {
  list-style: none;
  margin: 6px 0;
  padding: 0;
  display: grid;
  gap: 5px;
}
li {
  display: grid;
  grid-template-columns: 168px minmax(0, 1fr) 116px;
  gap: 12px;
  align-items: center;
  line-height: 18px;
}
.bar {
  height: 12px;
  background: var(--verdigris-tint);
  display: flex;
}
.old {
  background: repeating-linear-gradient(-45deg, var(--ochre) 0 5px, var(--ochre-tint) 5px 9px);
}
.old.silent {
  background: repeating-linear-gradient(90deg, var(--stone-5) 0 2px, var(--stone-2) 2px 8px);
}
.foot {
  margin: 8px 0;
}
.name {
  color: var(--ink-7);
  font-size: 13px;
}
@media (max-width: 699px) {
  .spread {
    padding-inline: 12px;
  }
  li {
    grid-template-columns: 96px minmax(0, 1fr) 96px;
    gap: 8px;
  }
}
</style>
