<script setup lang="ts">
/** A folder that many pages side by side are in. */
import { count } from '../../logic/format.ts';
import { readable } from '../../logic/readable.ts';
import FoldButton from './FoldButton.vue';
import type { FolderRow } from './folding.ts';

defineProps<{ folder: FolderRow; grid: string; depth: number; isOpen: boolean }>();
const emit = defineEmits<{ fold: [] }>();
</script>

<template>
  <div class="cells" :style="{ gridTemplateColumns: grid }">
    <span class="name" :style="{ paddingInlineStart: `${depth * 26}px` }">
      <span class="one-line address">{{ readable(folder.address) }}</span>
      <FoldButton :is-open="isOpen" :below="folder.pages" @fold="emit('fold')" />
    </span>
    <span class="quiet one-line">{{ count(folder.pages, 'page') }} in this folder</span>
    <span />
    <span />
  </div>
</template>

<style scoped>
.cells {
  display: grid;
  gap: 16px;
  align-items: center;
}
.name {
  display: flex;
  align-items: center;
  gap: 6px;
  min-width: 0;
}
</style>
