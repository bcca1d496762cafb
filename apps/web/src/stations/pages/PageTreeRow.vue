<script setup lang="ts">
import type { PageRow } from '@fastigium/contracts/api/draft';
import { computed } from 'vue';
import KeystoneMark from '../../components/KeystoneMark.vue';
import { formatReadable } from '../../logic/readable.ts';
import { usePictures } from '../../stores/pictures.ts';
import FoldButton from './FoldButton.vue';
import { markOf, sayWhereItShows } from './pageWords.ts';
import { say } from './words.ts';

const props = defineProps<{
  page: PageRow;
  grid: string;
  depth: number;
  /** Undefined where nothing is below it. */
  isOpen: boolean | undefined;
  below: number;
  isLive: boolean;
}>();
const emit = defineEmits<{ fold: [] }>();
const pictures = usePictures();
const picture = computed(() =>
  props.page.kind === 'page' && props.page.isReady ? pictures.ofAddress('draft', props.page.address) : undefined,
);
const where = computed(() => sayWhereItShows(props.page, props.isLive));
</script>

<template>
  <div class="cells" :style="{ gridTemplateColumns: grid }">
    <span class="page" :style="{ paddingInlineStart: `${depth * 26}px` }">
      <span v-if="depth > 0" class="branch" aria-hidden="true">└</span>
      <KeystoneMark v-if="page.kind === 'page'" :mark="markOf(page)" />
      <span v-else class="kind quiet" aria-hidden="true">{{ page.kind === 'group' ? '▪' : '↗' }}</span>
      <span
        class="one-line"
        :class="{ strong: page.isHome || page.kind === 'group', wrong: page.label === '', held: !page.isReady }"
        :title="page.title"
        >{{ page.label || say('common.noTitle') }}</span
      >
      <FoldButton v-if="isOpen !== undefined" :is-open="isOpen" :below="below" @fold="emit('fold')" />
    </span>
    <span class="address one-line" :class="{ quiet: page.kind === 'link' }" :title="page.address">{{
      formatReadable(page.address)
    }}</span>
    <span class="quiet one-line" :class="{ wrong: where.wrong }" :title="where.words">{{ where.words }}</span>
    <img v-if="picture" class="picture" :src="picture" alt="" loading="lazy" decoding="async" />
    <span v-else class="picture none" />
  </div>
</template>

<style scoped>
.cells {
  display: grid;
  gap: 16px;
  align-items: center;
}
.page {
  display: flex;
  align-items: center;
  gap: 6px;
  min-width: 0;
}
.picture {
  width: 46px;
  height: 29px;
  object-fit: cover;
  object-position: top;
  border: var(--line);
  border-radius: 2px;
  background: var(--bench);
}
.none {
  border-color: transparent;
  background: none;
}
.branch {
  color: var(--stone-5);
  margin-inline-end: -2px;
  transform: translateY(-4px);
}
.kind {
  width: 12px;
  text-align: center;
}
.held {
  color: var(--ink-5);
  font-style: italic;
}
</style>
