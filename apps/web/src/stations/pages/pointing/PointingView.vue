<script setup lang="ts">
/**
 * Pointing at things in a page to change them. The page stands large where the ledger is; a script of the
 * preview's own, which runs instead of the page's, says what was clicked.
 */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { pagesApi, type Pointed } from '@fastigium/contracts/api/pages';
import { useElementSize, useEventListener } from '@vueuse/core';
import { computed, ref } from 'vue';
import { call } from '../../../api/client.ts';
import SegmentedChoice from '../../../components/SegmentedChoice.vue';
import StationLayout from '../../../components/StationLayout.vue';
import { useShortcuts } from '../../../components/shortcuts.ts';
import { runInBackground } from '../../../stores/background.ts';
import { useNotices } from '../../../stores/notices.ts';
import { useSite } from '../../../stores/site.ts';
import { usePreviewOrigins } from '../../shared/previewOrigin.ts';
import { WIDTHS } from '../widths.ts';
import PointedBench from './PointedBench.vue';
import { readPointed } from './pointed.ts';
import { say } from '../words.ts';

const props = defineProps<{ page: PageRow; pages: readonly PageRow[]; version: number }>();
const emit = defineEmits<{ back: [] }>();
const site = useSite();
const notices = useNotices();
const origins = usePreviewOrigins();
const frame = ref<HTMLIFrameElement>();
const box = ref<HTMLElement>();
const { width: roomPx, height: heightPx } = useElementSize(box);
const width = ref<keyof typeof WIDTHS>('wide');
const pointed = ref<Pointed>();
const start = ref(0);
const benchOpen = ref(false);
let asked = 0;

const scale = computed(() => Math.min(1, Math.max(0.2, roomPx.value / WIDTHS[width.value])));
const source = computed(() => (origins.value === undefined ? undefined : origins.value.pointing + props.page.address));

useEventListener(window, 'message', (event: MessageEvent<unknown>) => runInBackground(hear(event)));

async function hear(event: MessageEvent<unknown>): Promise<void> {
  // Anyone may post; only what this frame says counts, and only as numbers.
  if (event.source === null || event.source !== frame.value?.contentWindow || site.id === undefined) return;
  const at = readPointed(event.data);
  if (!at) return;
  const mine = (asked += 1);
  try {
    const answer = await call(pagesApi.pointed, { params: { site: site.id, page: props.page.id }, body: at });
    if (mine !== asked) return;
    [pointed.value, start.value] = [answer, at.start];
    benchOpen.value = true;
  } catch (error) {
    notices.problem(error);
  }
}
useShortcuts(() => [{ key: 'Escape', run: () => emit('back') }]);
</script>

<template>
  <StationLayout v-model:bench-open="benchOpen" :bench-label="say('pointingView.whatIsPointedAt')">
    <template #ledger>
      <div class="head">
        <button class="text-link" type="button" @click="emit('back')">{{ say('pointingView.backToTheTree') }}</button>
        <span class="strong one-line">{{ page.label }}</span>
        <span class="gap" />
        <SegmentedChoice
          v-model="width"
          :label="say('pointingView.widthOfThePage')"
          :options="[
            { value: 'wide', label: say('pointingView.wide') },
            { value: 'tablet', label: say('pointingView.tablet') },
            { value: 'phone', label: say('pointingView.phone') },
          ]"
        />
      </div>
      <div ref="box" class="box">
        <iframe
          v-if="source && roomPx > 0"
          ref="frame"
          :key="`${source} ${version}`"
          :src="source"
          sandbox="allow-scripts"
          :title="say('pointingView.toPointAt', { label: page.label })"
          referrerpolicy="no-referrer"
          :style="{
            width: `${WIDTHS[width]}px`,
            height: `${heightPx / scale}px`,
            transform: `translateX(${Math.max(0, (roomPx - WIDTHS[width] * scale) / 2)}px) scale(${scale})`,
          }"
        />
      </div>
    </template>
    <template #bench>
      <PointedBench
        v-if="pointed"
        :key="JSON.stringify(pointed.anchor)"
        :pointed="pointed"
        :start="start"
        :page="page"
        :pages="pages"
        @done="pointed = undefined"
      />
      <template v-else>
        <h1 class="title-face">{{ say('pointingView.pointAtSomething') }}</h1>
        <p class="explain">
          {{ say('pointingView.clickATextToCorrect') }}
        </p>
        <p class="quiet">
          {{ say('pointingView.menusAreEditedOnceFor') }}
        </p>
      </template>
    </template>
  </StationLayout>
</template>

<style scoped>
.head {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 10px 20px;
  border-bottom: var(--line);
}
.gap {
  flex: 1;
}
.box {
  flex: 1;
  min-height: 0;
  overflow: hidden;
  background: var(--stone-2);
}
iframe {
  display: block;
  border: 0;
  transform-origin: top left;
  max-width: none;
  color-scheme: light;
  background: canvas;
}
.explain {
  margin: 8px 0;
  color: var(--ink-7);
}
</style>
