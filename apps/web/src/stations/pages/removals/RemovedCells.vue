<script setup lang="ts">
/** One removal in the list: what, from where, when, and until when it is kept. */
import type { RemovalRow } from '@fastigium/contracts/api/removals';
import { computed } from 'vue';
import KeystoneMark from '../../../components/KeystoneMark.vue';
import { readDay, formatFigure, formatWhen } from '../../../logic/format.ts';
import { useWorld } from '../../../stores/world.ts';
import { speak } from '../../../words/index.ts';
import { sayKept, KIND_WORDS } from './removalWords.ts';
import { say } from '../words.ts';

const props = defineProps<{ item: RemovalRow; grid: string; isMarked: boolean }>();
const emit = defineEmits<{ mark: [] }>();
const world = useWorld();
const isSoon = computed(
  () => props.item.keptUntil !== null && new Date(props.item.keptUntil).getTime() - world.nowMs < 7 * 86_400_000,
);
</script>

<template>
  <div class="cells" :style="{ gridTemplateColumns: grid }">
    <span
      class="box"
      :class="{ on: isMarked }"
      :title="say('removedCells.markItSpace')"
      @click.stop="emit('mark')"
      @dblclick.stop
      ><span v-if="isMarked" class="visually-hidden">{{ say('removedCells.marked2') }}</span></span
    >
    <span class="two"
      ><span class="one-line" :title="item.label"
        ><KeystoneMark class="mark" mark="dashed" />{{ item.label
        }}<span v-if="item.size > 1" class="quiet"
          >&ensp;{{
            item.left < item.size
              ? say('removedCells.ofOut', { left: item.left, item: item.size })
              : say('removedCells.andMore', { item: item.size - 1 })
          }}</span
        ></span
      ><span class="quiet one-line" :class="{ address: item.address }">{{
        item.address ?? KIND_WORDS[item.kind]
      }}</span></span
    >
    <span class="two"
      ><span class="quiet one-line">{{ speak(item.from) }}</span
      ><span class="quiet one-line">{{ item.why }}</span></span
    >
    <span class="two"
      ><span class="quiet one-line">{{ formatWhen(item.at, world.now) }}</span
      ><span class="quiet one-line" :title="item.by.name">{{
        say('removedCells.by2', { initials: item.by.initials })
      }}</span></span
    >
    <span class="figure quiet">{{ item.visits === null ? '' : formatFigure(item.visits) }}</span>
    <span
      class="quiet one-line"
      :class="{ wait: isSoon }"
      :title="
        item.held
          ? item.held.reason
          : item.keptUntil
            ? say('removedCells.goesForGoodOn', { keptUntil: readDay(item.keptUntil) })
            : ''
      "
      >{{ sayKept(item) }}</span
    >
  </div>
</template>

<style scoped>
.cells {
  display: grid;
  gap: 16px;
  align-items: center;
}
.two {
  display: grid;
  min-width: 0;
  line-height: 18px;
}
.mark {
  margin-inline-end: 7px;
  vertical-align: -1px;
}
.wait {
  color: var(--ochre-dark);
  font-weight: 600;
}
.box {
  width: 13px;
  height: 13px;
  border: 1px solid var(--ink-5);
  border-radius: 2px;
  background: var(--bench);
  cursor: pointer;
}
.box.on {
  background: var(--ink-9);
  border-color: var(--ink-9);
  box-shadow: inset 0 0 0 2px var(--bench);
}
</style>
