<script setup lang="ts">
import type { Change } from '@fastigium/contracts/api/releases';
import KeystoneMark from '../../components/KeystoneMark.vue';
import { figure } from '../../logic/format.ts';
import { isHeading, type LedgerItem } from './grouped.ts';

defineProps<{ item: LedgerItem }>();
const WHAT: Readonly<Record<Change['what'], string>> = { added: 'new', changed: 'changed', removed: 'goes', moved: 'moved' };
</script>

<template>
  <div v-if="isHeading(item)" class="heading-line"><span>{{ item.heading }}</span><span>{{ figure(item.count) }}</span></div>
  <div v-else class="change">
    <KeystoneMark :mark="item.what === 'removed' ? 'dashed' : 'ochre'" />
    <span class="one-line" :title="`${item.subject}: ${item.words}`"><span :class="{ address: item.subject.startsWith('/') }">{{ item.subject }}</span>: {{ item.words }}</span>
    <span class="quiet">{{ WHAT[item.what] }}</span>
  </div>
</template>

<style scoped>
.heading-line { display: flex; justify-content: space-between; font-size: 12px; font-weight: 600; color: var(--ink-5); }
.change { display: grid; grid-template-columns: auto 1fr auto; gap: 12px; align-items: center; }
</style>
