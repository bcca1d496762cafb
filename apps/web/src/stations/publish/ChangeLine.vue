<script setup lang="ts">
import type { Change } from '@fastigium/contracts/api/releases';
import KeystoneMark from '../../components/KeystoneMark.vue';
import { formatFigure } from '../../logic/format.ts';
import { isHeading, type LedgerItem } from './grouped.ts';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

/** `isOut`: it stays in the draft this time. */
defineProps<{ item: LedgerItem; people: readonly string[]; isOut: boolean }>();
const WHAT: Readonly<Record<Change['what'], string>> = {
  added: say('changeLine.isNew'),
  changed: say('changeLine.changed'),
  removed: say('changeLine.goes'),
  moved: say('changeLine.moved'),
};
</script>

<template>
  <div v-if="isHeading(item)" class="heading-line">
    <span>{{ item.heading }}</span><span>{{ formatFigure(item.count) }}</span>
  </div>
  <div v-else class="change">
    <KeystoneMark :mark="isOut || item.what === 'removed' ? 'dashed' : 'ochre'" />
    <span class="one-line" :class="{ out: isOut }" :title="`${speak(item.subject)}: ${speak(item.message)}`"
      ><span :class="{ address: speak(item.subject).startsWith('/') }">{{ speak(item.subject) }}</span
      >: {{ speak(item.message) }}</span
    >
    <span class="quiet">{{ people.join(', ') }}</span>
    <span class="quiet what">{{ isOut ? say('common.leftOut') : WHAT[item.what] }}</span>
  </div>
</template>

<style scoped>
.heading-line {
  display: flex;
  justify-content: space-between;
  font-size: 12px;
  font-weight: 600;
  color: var(--ink-5);
}
.change {
  display: grid;
  grid-template-columns: auto 1fr auto auto;
  gap: 12px;
  align-items: center;
}
.out {
  color: var(--ink-5);
}
.what {
  min-width: 52px;
  text-align: right;
}
</style>
