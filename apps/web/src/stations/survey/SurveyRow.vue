<script setup lang="ts">
import type { SurveyItem } from './surveyRows.ts';

defineProps<{ row: SurveyItem; grid: string }>();
</script>

<template>
  <div class="cells" :style="{ gridTemplateColumns: grid }">
    <span
      v-for="(cell, index) in row.cells" :key="index" class="one-line" :class="cell.face" :title="cell.text"
      :style="index === 0 && row.depth > 0 ? { paddingInlineStart: `${row.depth * 22}px` } : {}"
    ><span v-if="index === 0 && row.depth > 0" class="branch" aria-hidden="true">└ </span>{{ cell.text }}</span>
  </div>
</template>

<style scoped>
.cells { display: grid; gap: 16px; align-items: center; }
.branch { color: var(--stone-5); }
.figure.wrong, .wrong:last-child { text-align: right; }
</style>
