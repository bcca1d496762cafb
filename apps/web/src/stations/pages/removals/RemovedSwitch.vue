<script setup lang="ts">
/** Shows or hides what is removed, in its places. */
import { count } from '../../../logic/format.ts';
import { useShowsRemoved } from './showsRemoved.ts';

defineProps<{ removed: number; hint?: string }>();
const shows = useShowsRemoved();
</script>

<template>
  <label v-if="removed > 0" class="quiet" :title="hint ?? 'Removed things stay in their place'"
    ><input v-model="shows" type="checkbox" /> {{ count(removed, 'removed', 'removed') }}</label
  >
</template>

<style scoped>
label {
  display: flex;
  gap: 5px;
  align-items: center;
  cursor: pointer;
}
input {
  accent-color: var(--ink-9);
  margin: 0;
}
</style>
