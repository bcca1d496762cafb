<script setup lang="ts">
/** The bench of a removed row of the tree. */
import type { PageRow, RemovedRow } from '@fastigium/contracts/api/draft';
import { computed, ref } from 'vue';
import RemovedBench from './RemovedBench.vue';
import { useRemovals } from './removals.ts';

const props = defineProps<{ row: RemovedRow; pages: readonly PageRow[]; version: number }>();
const emit = defineEmits<{ done: [] }>();
const list = useRemovals();
const removal = computed(() => list.value?.rows.find(({ of }) => of === props.row.removal));
const bench = ref<InstanceType<typeof RemovedBench>>();
defineExpose({ putBack: () => bench.value?.putBack() });
</script>

<template>
  <RemovedBench
    v-if="removal"
    ref="bench"
    :key="`${removal.of} ${row.id}`"
    :row="removal"
    :node="row.id"
    :pages="pages"
    :version="version"
    @done="emit('done')"
  />
</template>
