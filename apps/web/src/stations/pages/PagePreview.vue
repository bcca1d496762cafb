<script setup lang="ts">
/**
 * The page as it will be, at three widths and as without script, scaled to the bench. It comes from an
 * origin of its own into a sandboxed frame: nothing in an imported page can reach the application.
 */
import { useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { usePreviewOrigins } from '../shared/previewOrigin.ts';
import { WIDTHS } from './widths.ts';
import { say } from './words.ts';

const props = defineProps<{
  address: string;
  version: number;
  name: string;
  /** A removed page, as it was. */ away?: boolean;
}>();
const HEIGHT_PX = 220;

const width = ref<keyof typeof WIDTHS>('wide');
const script = ref(true);
const box = ref<HTMLElement>();
const { width: roomPx } = useElementSize(box);
const origins = usePreviewOrigins();
const scale = computed(() => Math.min(1, Math.max(0.1, roomPx.value / WIDTHS[width.value])));
const source = computed(() =>
  origins.value === undefined
    ? undefined
    : origins.value[props.away ? 'away' : script.value ? 'seen' : 'still'] + props.address,
);
</script>

<template>
  <div ref="box" class="box" :style="{ height: `${HEIGHT_PX}px` }">
    <iframe
      v-if="source && roomPx > 0"
      :key="`${source} ${version}`"
      :src="source"
      :sandbox="script && !away ? 'allow-scripts' : ''"
      :title="say('pagePreview.previewOf', { name })"
      referrerpolicy="no-referrer"
      tabindex="-1"
      :style="{
        width: `${WIDTHS[width]}px`,
        height: `${HEIGHT_PX / scale}px`,
        transform: `translateX(${Math.max(0, (roomPx - WIDTHS[width] * scale) / 2)}px) scale(${scale})`,
      }"
    />
  </div>
  <div class="under">
    <SegmentedChoice
      v-model="width"
      :label="say('pagePreview.widthOfThePreview')"
      :options="[
        { value: 'wide', label: say('pagePreview.wide') },
        { value: 'tablet', label: say('pagePreview.tablet') },
        { value: 'phone', label: say('pagePreview.phone') },
      ]"
    />
    <label v-if="!away" class="script"
      ><input v-model="script" type="checkbox" /> {{ say('pagePreview.scripts') }}</label
    >
    <a
      v-if="source"
      class="quiet"
      :href="source"
      target="_blank"
      rel="noopener"
      :title="say('pagePreview.pxWide', { width: WIDTHS[width] })"
      >{{ say('pagePreview.openInATab') }}</a
    >
  </div>
</template>

<style scoped>
.box {
  overflow: hidden;
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  background: var(--stone-1);
}
iframe {
  display: block;
  border: 0;
  transform-origin: top left;
  max-width: none;
  color-scheme: light;
  background: canvas;
}
.under {
  display: flex;
  align-items: center;
  margin-top: 8px;
  gap: 12px;
}
.under > :last-child {
  margin-inline-start: auto;
}
.script {
  display: flex;
  gap: 5px;
  align-items: center;
  font-size: 13px;
  cursor: pointer;
}
.script input {
  accent-color: var(--ink-9);
  margin: 0;
}
</style>
