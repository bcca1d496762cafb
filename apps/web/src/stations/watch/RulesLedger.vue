<script setup lang="ts">
/** Redirects by their use. */
import type { UsedRule } from '@fastigium/contracts/api/watch';
import LedgerColumns from '../../components/LedgerColumns.vue';
import LedgerList from '../../components/LedgerList.vue';
import { formatFigure, formatWhen } from '../../logic/format.ts';
import { formatShownAddress } from '../shared/settling/shownAddress.ts';
import { sayRuleStanding } from './watchWords.ts';
import { say } from './words.ts';

const GRID = 'minmax(0, 5fr) 56px minmax(0, 5fr) minmax(0, 4fr)';
/** `since`: from when visits are counted; `empty`: what is said where there are none. */
defineProps<{ rules: readonly UsedRule[]; since: string | null; now: Date; empty: string }>();
const emit = defineEmits<{ pick: [] }>();
const selected = defineModel<string | undefined>({ required: true });
</script>

<template>
  <LedgerColumns
    :grid="GRID"
    :columns="[
      { label: say('rulesLedger.oldAddressOrPattern') },
      { label: say('common.visits'), figure: true },
      { label: say('common.leadsTo') },
      { label: say('rulesLedger.use') },
    ]"
  />
  <LedgerList
    v-model="selected"
    :items="rules"
    :key-of="(each: UsedRule) => each.from"
    :row-height="40"
    :label="say('rulesLedger.redirectsByUse')"
    @pick="emit('pick')"
    @enter="emit('pick')"
  >
    <template #default="{ item }">
      <div class="cells" :style="{ gridTemplateColumns: GRID }">
        <span class="address one-line" :title="item.from">{{ formatShownAddress(item.from) }}</span>
        <span class="figure">{{ item.visits === 0 ? '' : formatFigure(item.visits) }}</span>
        <span class="address one-line" :class="{ quiet: item.to === null }">{{
          item.to ?? say('common.goneForGood')
        }}</span>
        <span class="quiet one-line">{{
          item.lastAt
            ? `${sayRuleStanding(item, since, now.getTime())}, ${formatWhen(item.lastAt, now)}`
            : sayRuleStanding(item, since, now.getTime())
        }}</span>
      </div>
    </template>
    <template #empty
      ><p class="empty">{{ empty }}</p></template
    >
  </LedgerList>
</template>

<style scoped>
.cells {
  display: grid;
  gap: 16px;
  align-items: center;
}
.empty {
  padding: 20px;
  margin: 0;
  color: var(--ink-5);
}
</style>
