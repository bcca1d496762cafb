<script setup lang="ts">
/** A folder that many pages side by side are in. */
import { formatReadable } from '../../logic/readable.ts';
import FoldButton from './FoldButton.vue';
import type { FolderRow } from './folding.ts';
import { say } from './words.ts';

defineProps<{ folder: FolderRow; grid: string; depth: number; isOpen: boolean }>();
const emit = defineEmits<{ fold: [] }>();
</script>

<template>
  <div class="cells" :style="{ gridTemplateColumns: grid }">
    <span class="name" :style="{ paddingInlineStart: `${depth * 26}px` }">
      <span class="one-line address">{{ formatReadable(folder.address) }}</span>
      <FoldButton :is-open="isOpen" :below="folder.pages" @fold="emit('fold')" />
    </span>
    <span class="quiet one-line">{{ say('folderTreeRow.pagesInThisFolder', { pages: folder.pages }) }}</span>
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
