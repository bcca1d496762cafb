<script setup lang="ts">
/** Column heads, on the same grid as the rows below. */
defineProps<{ columns: readonly { label: string; figure?: boolean }[]; grid: string }>();
</script>

<template>
  <div class="columns" :style="{ gridTemplateColumns: grid }" aria-hidden="true">
    <span v-for="column in columns" :key="column.label" class="one-line" :class="{ figure: column.figure }">{{
      column.label
    }}</span>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  gap: 16px;
  padding: 4px 20px;
  font-size: 12px;
  color: var(--ink-5);
  border-bottom: var(--line);
  flex: none;
}
</style>
