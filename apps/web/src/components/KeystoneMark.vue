<script setup lang="ts">
/** A keystone: the mark of state. Words stand beside it wherever it is used, so it is hidden from readers. */
import type { Mark } from '../logic/marks.ts';

defineProps<{ mark: Mark; size?: number }>();
</script>

<template>
  <svg class="keystone" :class="mark" :width="size ?? 12" :height="size ?? 12" viewBox="0 0 12 12" aria-hidden="true">
    <path class="wedge" d="M.8 1h10.4L9.4 11H2.6z" />
    <path v-if="mark === 'madder'" class="crack" d="M6.6 0 5 4.2l2.2 2L5.4 12" />
  </svg>
</template>

<style scoped>
.keystone {
  flex: none;
  overflow: visible;
}
.verdigris .wedge {
  fill: var(--verdigris);
}
.lapis .wedge {
  fill: var(--lapis);
}
.madder .wedge {
  fill: var(--madder);
}
.ochre .wedge {
  fill: none;
  stroke: var(--ochre);
  stroke-width: 1.5;
}
.dashed .wedge {
  fill: none;
  stroke: var(--stone-5);
  stroke-width: 1.3;
  stroke-dasharray: 1.8 1.5;
}
.crack {
  fill: none;
  stroke: var(--stone-1);
  stroke-width: 1.3;
}
</style>
