<script setup lang="ts">
/** Ledger and bench. Where there is no room for both, the bench slides over the ledger. */
import { useMediaQuery } from '@vueuse/core';
import { ref, watch } from 'vue';
import { useShortcuts } from './shortcuts.ts';
import { say } from './words.ts';

const props = defineProps<{
  benchLabel: string;
  /** What the bench shows: another thing begins at its top. */ benchOf?: string | undefined;
}>();
const benchOpen = defineModel<boolean>('benchOpen', { default: false });
const isNarrow = useMediaQuery('(max-width: 999px)');
const bench = ref<HTMLElement>();
watch(
  () => props.benchOf,
  () => bench.value?.scrollTo(0, 0),
);
useShortcuts(() =>
  isNarrow.value && benchOpen.value ? [{ key: 'Escape', run: () => (benchOpen.value = false), always: true }] : [],
);
</script>

<template>
  <div class="station">
    <section class="ledger"><slot name="ledger" /></section>
    <aside
      ref="bench"
      v-show="!isNarrow || benchOpen"
      class="bench"
      :class="{ over: isNarrow }"
      :aria-label="benchLabel"
    >
      <button v-if="isNarrow" class="text-link back" type="button" @click="benchOpen = false">
        {{ say('common.backToTheList') }}
      </button>
      <slot name="bench" />
    </aside>
  </div>
</template>

<style scoped>
.station {
  flex: 1;
  min-height: 0;
  display: flex;
  position: relative;
}
.ledger {
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
  background: var(--paper);
}
.bench {
  width: clamp(400px, 34vw, 460px);
  box-sizing: border-box;
  padding: 14px 20px 20px;
  overflow: auto;
  background: var(--bench);
  border-left: 1px solid var(--stone-3);
}
.bench.over {
  position: absolute;
  inset: 0 0 0 auto;
  width: min(100%, 460px);
  z-index: 2;
}
.back {
  margin-bottom: 12px;
}
</style>
