<script setup lang="ts">
/**
 * Folds a branch away, or shows it again; folded, it says how much it holds. For the pointer alone: the row itself
 * says that it is open, and the list has the keys.
 */
import { say } from './words.ts';
defineProps<{ isOpen: boolean; below: number }>();
const emit = defineEmits<{ fold: [] }>();
</script>

<template>
  <button
    type="button"
    tabindex="-1"
    aria-hidden="true"
    :title="isOpen ? say('foldButton.foldLeftArrow') : say('foldButton.unfoldRightArrow')"
    @click.stop="emit('fold')"
    @dblclick.stop
  >
    <span class="sign" :class="{ isOpen }">›</span>{{ isOpen ? '' : below.toLocaleString('en') }}
  </button>
</template>

<style scoped>
button {
  display: inline-flex;
  align-items: center;
  gap: 4px;
  flex: none;
  min-width: 24px;
  min-height: 24px;
  padding: 0 6px;
  border: 1px solid transparent;
  border-radius: 3px;
  background: none;
  color: var(--ink-5);
  font: inherit;
  font-size: 12px;
  cursor: pointer;
}
button:hover {
  border-color: var(--stone-3);
  color: var(--ink-9);
}
.sign {
  display: inline-block;
  font-size: 16px;
  line-height: 1;
}
.sign.isOpen {
  transform: rotate(90deg);
}
</style>
