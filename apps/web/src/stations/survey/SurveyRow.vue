<script setup lang="ts">
import KeystoneMark from '../../components/KeystoneMark.vue';
import { formatFigure } from '../../logic/format.ts';
import type { SurveyItem } from './surveyRows.ts';

defineProps<{ row: SurveyItem; grid: string }>();
</script>

<template>
  <div v-if="row.heading" class="head">
    <span class="strong">{{ row.heading.title }}</span><span class="quiet">{{ formatFigure(row.heading.count) }}</span>
  </div>
  <div v-else class="cells" :style="{ gridTemplateColumns: grid }">
    <span
      v-for="(cell, index) in row.cells"
      :key="index"
      class="one-line"
      :class="cell.face"
      :title="cell.text"
      :style="index === 0 && row.depth > 0 ? { paddingInlineStart: `${row.depth * 22}px` } : {}"
      ><KeystoneMark v-if="index === 0 && row.mark" class="mark" :mark="row.mark" /><span
        v-if="index === 0 && row.depth > 0"
        class="branch"
        aria-hidden="true"
        >└ </span
      >{{ cell.text }}</span
    >
  </div>
</template>

<style scoped>
.cells {
  display: grid;
  gap: 16px;
  align-items: center;
}
.head {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.branch {
  color: var(--stone-5);
}
.mark {
  margin-inline-end: 7px;
  vertical-align: -1px;
}
.figure.wrong,
.wrong:last-child {
  text-align: right;
}
</style>
