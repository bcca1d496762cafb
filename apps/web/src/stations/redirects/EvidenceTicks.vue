<script setup lang="ts">
/** How probable a suggestion is, in five strokes; the figure stands in its title. */
import { computed } from 'vue';
import { SURE } from './coverage.ts';
import { say } from './words.ts';

const props = defineProps<{ probability: number | undefined }>();
const filled = computed(() => Math.round((props.probability ?? 0) * 5));
const words = computed(() =>
  props.probability === undefined
    ? say('evidenceTicks.noSuggestion')
    : say('evidenceTicks.of100SuchSuggestionsAre', { probability: Math.round(props.probability * 100) }),
);
</script>

<template>
  <span class="ticks" :class="{ sure: (probability ?? 0) >= SURE }" role="img" :aria-label="words" :title="words"
    ><i v-for="n in 5" :key="n" :class="{ on: n <= filled }"
  /></span>
</template>

<style scoped>
.ticks {
  display: inline-flex;
  gap: 2px;
}
i {
  width: 5px;
  height: 13px;
  background: var(--stone-2);
}
i.on {
  background: var(--ochre);
}
.sure i.on {
  background: var(--verdigris);
}
</style>
