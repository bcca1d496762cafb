<script setup lang="ts">
import type { PageRow } from '@fastigium/contracts/api/draft';
import { computed } from 'vue';
import KeystoneMark from '../../components/KeystoneMark.vue';
import type { Mark } from '../../logic/marks.ts';

const props = defineProps<{ page: PageRow; grid: string; flat: boolean; isLive: boolean }>();
const mark = computed<Mark>(() => (props.page.isHome ? 'lapis' : props.page.state === 'live' ? 'verdigris' : 'ochre'));
const words = computed(() => {
  const parts = props.page.isHome ? ['home'] : [];
  if (props.page.state === 'changed') parts.push('changed');
  else if (props.page.state === 'new') parts.push(props.isLive ? 'new' : 'not live yet');
  else parts.push('live');
  return parts.join(', ');
});
const depth = computed(() => (props.flat ? 0 : props.page.depth));
</script>

<template>
  <div class="cells" :style="{ gridTemplateColumns: grid }">
    <span class="page" :style="{ paddingInlineStart: `${depth * 26}px` }">
      <span v-if="depth > 0" class="branch" aria-hidden="true">└</span>
      <KeystoneMark :mark="mark" />
      <span class="one-line" :class="{ strong: page.isHome, wrong: page.title === '' }" :title="page.title">{{ page.title || 'no title' }}</span>
    </span>
    <span class="address one-line" :title="page.address">{{ page.address }}</span>
    <span class="quiet one-line">{{ words }}</span>
  </div>
</template>

<style scoped>
.cells { display: grid; gap: 16px; align-items: center; }
.page { display: flex; align-items: center; gap: 6px; min-width: 0; }
.branch { color: var(--stone-5); margin-inline-end: -2px; transform: translateY(-4px); }
</style>
