<script setup lang="ts">
/** A line of a panel: how it stands, what it is, and what can be done with it. */
import KeystoneMark from '../../components/KeystoneMark.vue';
import type { Mark } from '../../logic/marks.ts';

defineProps<{ mark: Mark }>();
defineSlots<{ default(): unknown; ways?(): unknown }>();
</script>

<template>
  <li>
    <KeystoneMark :mark="mark" />
    <span class="what"><slot /></span>
    <span v-if="$slots.ways" class="ways"><slot name="ways" /></span>
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 10px;
  align-items: baseline;
  padding: 7px 0;
  border-bottom: var(--line);
  font-size: 13px;
}
.what {
  display: grid;
  min-width: 0;
  overflow-wrap: anywhere;
}
.ways {
  display: flex;
  gap: 10px;
}
.ways :slotted(.text-link) {
  min-height: 24px;
}
</style>
