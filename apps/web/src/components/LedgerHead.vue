<script setup lang="ts">
/** The line above a ledger's columns: what to show, and a search. */
import { ref } from 'vue';
import { useShortcuts } from './shortcuts.ts';

defineProps<{ searchLabel: string }>();
const search = defineModel<string>({ required: true });
const field = ref<HTMLInputElement>();
useShortcuts(() => [{ key: '/', run: () => field.value?.focus() }]);
</script>

<template>
  <div class="head">
    <slot />
    <span class="gap" />
    <input
      ref="field"
      v-model="search"
      class="search"
      type="search"
      :placeholder="searchLabel"
      :aria-label="searchLabel"
      @keydown.esc="field?.blur()"
    />
    <slot name="after" />
  </div>
</template>

<style scoped>
.head {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 10px 20px;
  border-bottom: var(--line);
  flex-wrap: wrap;
}
.gap {
  flex: 1 1 0;
}
/* What stands beside it may be much: then it is narrower rather than on a line of its own. */
.search {
  flex: 1 1 100px;
  min-width: 100px;
  max-width: 180px;
  font: inherit;
  font-size: 13px;
  line-height: 18px;
  padding: 3px 8px;
  color: inherit;
  background: var(--bench);
  border: 1px solid var(--stone-3);
  border-radius: 2px;
}
.search::placeholder {
  color: var(--ink-5);
  opacity: 1;
}
</style>
