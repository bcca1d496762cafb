<script setup lang="ts">
/** A page as a release had it beside today's, each in a frame of its own origin without script. */
import { useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';
import { usePreviewOrigins } from '../../shared/previewOrigin.ts';
import { say } from '../words.ts';

const props = defineProps<{
  then: string;
  today: string | undefined;
  release: number;
  version: number;
  name: string;
}>();
const WIDTH_PX = 1024;
const HEIGHT_PX = 150;
const box = ref<HTMLElement>();
const { width: roomPx } = useElementSize(box);
const origins = usePreviewOrigins();
const scale = computed(() => (props.today === undefined ? roomPx.value : (roomPx.value - 8) / 2) / WIDTH_PX);
const sources = computed(() =>
  origins.value === undefined
    ? []
    : [
        {
          words: say('sideBySide.release', { release: props.release }),
          src: origins.value.release.replace('NUMBER', String(props.release)) + props.then,
        },
        ...(props.today === undefined
          ? []
          : [{ words: say('sideBySide.todaysDraft'), src: origins.value.still + props.today }]),
      ],
);
</script>

<template>
  <div ref="box" class="both">
    <figure v-for="source in sources" :key="source.words">
      <div class="box" :style="{ height: `${HEIGHT_PX}px` }">
        <iframe
          v-if="roomPx > 0"
          :key="`${source.src} ${version}`"
          :src="source.src"
          sandbox=""
          :title="`${name}, ${source.words}`"
          referrerpolicy="no-referrer"
          tabindex="-1"
          :style="{ width: `${WIDTH_PX}px`, height: `${HEIGHT_PX / scale}px`, transform: `scale(${scale})` }"
        />
      </div>
      <figcaption class="quiet">
        {{ source.words }} <a :href="source.src" target="_blank" rel="noopener">{{ say('sideBySide.open') }}</a>
      </figcaption>
    </figure>
  </div>
</template>

<style scoped>
.both {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: 1fr;
  gap: 8px;
}
figure {
  margin: 0;
  min-width: 0;
}
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
figcaption {
  margin-top: 3px;
  display: flex;
  justify-content: space-between;
}
a {
  color: var(--lapis);
}
</style>
