<script setup lang="ts">
/** Shows or hides what is removed, in its places. */
import { useShowsRemoved } from './showsRemoved.ts';
import { say } from '../words.ts';

defineProps<{ removed: number; hint?: string }>();
const shows = useShowsRemoved();
</script>

<template>
  <label v-if="removed > 0" class="quiet" :title="hint ?? say('removedSwitch.removedThingsStayInTheir')"
    ><input v-model="shows" type="checkbox" /> {{ say('removedSwitch.removed', { removed }) }}</label
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
