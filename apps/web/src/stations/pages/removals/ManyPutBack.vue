<script setup lang="ts">
/** Several removed things put back in one step. */
import type { RemovalRow } from '@fastigium/contracts/api/removals';
import { computed } from 'vue';
import { count } from '../../../logic/format.ts';
import PutBackPanel from './PutBackPanel.vue';

const props = defineProps<{ rows: readonly RemovalRow[] }>();
const emit = defineEmits<{ leave: [] }>();
const things = computed(() => props.rows.map(({ of }) => ({ of })));
</script>

<template>
  <h1 class="title-face">{{ count(rows.length, 'removed thing') }}</h1>
  <p class="quiet">Each to the place it had, in one step that can be taken back.</p>
  <PutBackPanel :things="things" :label="`all ${rows.length}`" @done="emit('leave')" />
  <v-btn class="leave" @click="emit('leave')">Leave it</v-btn>
</template>

<style scoped>
p {
  margin: 2px 0 12px;
}
.leave {
  margin-top: 10px;
}
</style>
