<script setup lang="ts">
/** Fourteen days as small bars, today last; the sum stands beside it in words. */
import { computed } from 'vue';

const props = defineProps<{ days: readonly number[] }>();
const HEIGHT = 18;
const most = computed(() => Math.max(1, ...props.days));
const reckonHeight = (n: number) => (n === 0 ? 1 : Math.max(3, Math.round((n / most.value) * HEIGHT)));
</script>

<template>
  <svg :width="days.length * 5" :height="HEIGHT" :viewBox="`0 0 ${days.length * 5} ${HEIGHT}`" aria-hidden="true">
    <rect
      v-for="(n, at) in days"
      :key="at"
      :x="at * 5"
      :y="HEIGHT - reckonHeight(n)"
      width="3"
      :height="reckonHeight(n)"
      :class="{ none: n === 0 }"
    />
  </svg>
</template>

<style scoped>
rect {
  fill: var(--madder);
}
.none {
  fill: var(--stone-3);
}
</style>
