<script setup lang="ts">
/** How probable a suggestion is: as much of a bar is full; the figure stands in its title. */
import { computed } from 'vue';
import { SURE } from './coverage.ts';
import { say } from './words.ts';

const props = defineProps<{ probability: number | undefined }>();
const words = computed(() =>
  props.probability === undefined
    ? say('probabilityBar.noSuggestion')
    : say('probabilityBar.of100SuchSuggestionsAre', { probability: Math.round(props.probability * 100) }),
);
</script>

<template>
  <span class="bar" :class="{ sure: (probability ?? 0) >= SURE }" role="img" :aria-label="words" :title="words"
    ><span :style="{ inlineSize: `${(probability ?? 0) * 100}%` }"
  /></span>
</template>

<style scoped>
.bar {
  display: inline-block;
  width: 36px;
  height: 10px;
  background: var(--stone-2);
}
.bar > span {
  display: block;
  height: 100%;
  background: var(--ochre);
}
.sure > span {
  background: var(--verdigris);
}
</style>
