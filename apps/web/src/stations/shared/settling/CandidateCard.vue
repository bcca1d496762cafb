<script setup lang="ts">
/** A page an old address could land on, and what speaks for it. */
import type { OldAddress } from '@fastigium/contracts/api/redirects';
import { computed } from 'vue';
import { say } from '../words.ts';

const props = defineProps<{ candidate: OldAddress['suggestions'][number]; number: number; chosen: boolean }>();
defineEmits<{ choose: [] }>();
const KINDS = {
  address: say('candidateCard.address'),
  title: say('candidateCard.title'),
  headings: say('candidateCard.headings'),
  text: say('candidateCard.text'),
};
const shared = computed(() => [...new Set(props.candidate.evidence.flatMap(({ words }) => words))].slice(0, 12));
</script>

<template>
  <button type="button" class="card" :class="{ chosen }" role="radio" :aria-checked="chosen" @click="$emit('choose')">
    <span class="number" aria-hidden="true">{{ number }}</span>
    <span class="names"
      ><span class="strong one-line">{{ candidate.title || say('candidateCard.aFileOfThisSite') }}</span
      ><span class="address quiet one-line">{{ candidate.address }}</span></span
    >
    <span
      class="probability"
      :title="say('candidateCard.ofAHundredSuchSuggestions', { probability: Math.round(candidate.probability * 100) })"
      >{{ candidate.probability.toFixed(2) }}</span
    >
    <span v-if="candidate.evidence.length > 0" class="bars">
      <span
        v-for="each in candidate.evidence"
        :key="each.kind"
        class="evidence"
        :title="
          each.words.length > 0
            ? say('candidateCard.both', { words: each.words.join(', ') })
            : say('candidateCard.nothingInCommon')
        "
      >
        <span class="quiet">{{ KINDS[each.kind] }}</span><span class="bar"
          ><span :style="{ inlineSize: `${each.strength * 100}%` }"
        /></span>
      </span>
    </span>
    <span v-if="chosen && shared.length > 0" class="quiet why">{{
      say('candidateCard.bothSay', { shared: shared.join(', ') })
    }}</span>
    <span v-if="candidate.neighbours" class="quiet why">{{
      say('candidateCard.neighboursGo', {
        count: candidate.neighbours.count,
        all: candidate.neighbours.all,
        from: candidate.neighbours.from,
        to: candidate.neighbours.to,
      })
    }}</span>
  </button>
</template>

<style scoped>
.card {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 0 10px;
  width: 100%;
  text-align: left;
  font: inherit;
  color: inherit;
  background: var(--bench);
  border: var(--line);
  border-radius: 3px;
  padding: 8px 12px;
  margin-block-end: 8px;
  cursor: pointer;
}
.card:hover {
  border-color: var(--ink-7);
}
.card.chosen {
  border-color: var(--lapis);
  outline: 1px solid var(--lapis);
}
.number {
  align-self: start;
  border: 1px solid var(--ink-5);
  border-radius: 3px;
  font-size: 12px;
  line-height: 18px;
  padding: 0 6px;
  color: var(--ink-5);
}
.names {
  display: block;
  min-width: 0;
  line-height: 18px;
}
.names > * {
  display: block;
}
.probability {
  font-size: 17px;
  font-weight: 600;
  font-variant-numeric: tabular-nums;
}
.bars {
  grid-column: 1 / -1;
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: 1fr;
  gap: 8px;
  margin-block-start: 6px;
}
.evidence {
  display: block;
  min-width: 0;
}
.bar {
  display: block;
  height: 4px;
  background: var(--stone-2);
}
.bar > span {
  display: block;
  height: 100%;
  background: var(--ink-7);
}
.why {
  grid-column: 1 / -1;
  margin-block-start: 4px;
}
</style>
