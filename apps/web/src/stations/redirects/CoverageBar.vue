<script setup lang="ts">
import type { RedirectRow } from '@fastigium/contracts/api/draft';
import { computed } from 'vue';
import { figure, percent } from '../../logic/format.ts';
import { coverage } from './coverage.ts';

const props = defineProps<{ rows: readonly RedirectRow[] }>();
const sums = computed(() => coverage(props.rows));
const hasVisits = computed(() => props.rows.some(({ visits }) => visits !== null));
const share = (part: number) => `${sums.value.visits === 0 ? 0 : (part / sums.value.visits) * 100}%`;
</script>

<template>
  <div v-if="sums.visits > 0" class="coverage">
    <div class="bar" aria-hidden="true">
      <span class="landing" :style="{ width: share(sums.landing) }" /><span class="gone" :style="{ width: share(sums.gone) }" /><span class="lost" :style="{ width: share(sums.lost) }" />
    </div>
    <span><b>{{ percent(sums.landing, sums.visits) }}%</b> of {{ hasVisits ? `${figure(sums.visits)} visits` : `${figure(sums.visits)} old addresses` }} land on a page</span>
    <span class="quiet">{{ percent(sums.gone, sums.visits) }}% gone on purpose, {{ percent(sums.lost, sums.visits) }}% lost</span>
  </div>
</template>

<style scoped>
.coverage { display: grid; grid-template-columns: 1fr auto; gap: 4px 16px; padding: 10px 20px 8px; border-bottom: var(--line); align-items: baseline; }
.bar { grid-column: 1 / -1; display: flex; height: 14px; border: 1px solid var(--stone-3); overflow: hidden; }
.landing { background: var(--verdigris); }
.gone { background: var(--stone-5); }
.lost { background: repeating-linear-gradient(45deg, var(--madder) 0 5px, var(--madder-tint) 5px 10px); }
</style>
