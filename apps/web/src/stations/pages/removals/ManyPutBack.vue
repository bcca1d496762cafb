<script setup lang="ts">
/** Several removed things put back in one step. */
import type { RemovalRow } from '@fastigium/contracts/api/removals';
import { computed } from 'vue';
import PutBackPanel from './PutBackPanel.vue';
import { say } from '../words.ts';

const props = defineProps<{ rows: readonly RemovalRow[] }>();
const emit = defineEmits<{ leave: [] }>();
const things = computed(() => props.rows.map(({ of }) => ({ of })));
</script>

<template>
  <h1 class="title-face">{{ say('manyPutBack.removedThings', { rows: rows.length }) }}</h1>
  <p class="quiet">{{ say('manyPutBack.eachToThePlaceIt') }}</p>
  <PutBackPanel :things="things" :label="say('manyPutBack.all', { rows: rows.length })" @done="emit('leave')" />
  <v-btn class="leave" @click="emit('leave')">{{ say('common.leaveIt') }}</v-btn>
</template>

<style scoped>
p {
  margin: 2px 0 12px;
}
.leave {
  margin-top: 10px;
}
</style>
