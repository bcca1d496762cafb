<script setup lang="ts">
/** A removed row in the place it keeps. */
import type { RemovedRow } from '@fastigium/contracts/api/draft';
import KeystoneMark from '../../../components/KeystoneMark.vue';
import { formatReadable } from '../../../logic/readable.ts';
import { useSession } from '../../../stores/session.ts';
import { sayWhereItWas } from './removalWords.ts';
import { say } from '../words.ts';

defineProps<{ row: RemovedRow; grid: string; depth: number }>();
const emit = defineEmits<{ back: [] }>();
const session = useSession();
</script>

<template>
  <div class="cells" :style="{ gridTemplateColumns: grid }">
    <span class="page" :style="{ paddingInlineStart: `${depth * 26}px` }">
      <span v-if="depth > 0" class="branch" aria-hidden="true">└</span>
      <KeystoneMark mark="dashed" />
      <span class="one-line name" :title="row.title">{{ row.label || say('common.noTitle') }}</span>
      <button v-if="session.mayEdit" class="back" type="button" @click.stop="emit('back')" @dblclick.stop>
        {{ say('common.putBack') }}
      </button>
    </span>
    <span class="address one-line was" :title="row.address">{{ formatReadable(row.address) }}</span>
    <span class="quiet one-line" :title="sayWhereItWas(row)">{{ sayWhereItWas(row) }}</span>
    <span class="quiet by" :title="say('removedTreeRow.removedBy', { name: row.by.name })">{{ row.by.initials }}</span>
  </div>
</template>

<style scoped>
.cells {
  position: absolute;
  inset: 2px;
  padding-inline: 15px 18px;
  display: grid;
  gap: 16px;
  align-items: center;
  background: repeating-linear-gradient(135deg, transparent 0 10px, var(--stone-1) 10px 20px);
}
.page {
  display: flex;
  align-items: center;
  gap: 6px;
  min-width: 0;
}
.branch {
  color: var(--stone-5);
  margin-inline-end: -2px;
  transform: translateY(-4px);
}
.name,
.was {
  color: var(--ink-5);
}
.was {
  text-decoration: line-through;
}
.by {
  text-align: right;
}
.back {
  flex: none;
  font: inherit;
  font-size: 12px;
  font-weight: 600;
  line-height: 16px;
  padding: 0 9px;
  color: var(--ink-9);
  background: var(--bench);
  border: 1px solid var(--ink-7);
  border-radius: 3px;
  cursor: pointer;
}
.back:hover {
  background: var(--stone-1);
}
</style>
