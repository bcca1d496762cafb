<script setup lang="ts">
/** How a line of search results would show the page, in our own drawing: letters as wide as result pages set them. */
import '@fontsource/arimo/400.css';
import { COMMON_LIMITS, cutDescription, cutTitle, isMeasured, measureTitlePx } from '@fastigium/core/head';
import { computed } from 'vue';
import type { Limits } from './judging.ts';
import { say } from './words.ts';

const props = defineProps<{ title: string; description: string; url: string; limits: Limits }>();
const shown = computed(() => cutTitle(props.title, props.limits.titlePx));
const text = computed(() => cutDescription(props.description, props.limits.descriptionLetters));
const widthPx = computed(() => Math.round(measureTitlePx(props.title)));
/** The bench is narrower than a result page, so the line is drawn smaller as a whole. */
const SCALE = 0.66;
const isCut = computed(() => shown.value !== props.title.replace(/\s+/g, ' ').trim());
</script>

<template>
  <figure class="result" :aria-label="say('resultPreview.howASearchResultWould')">
    <div class="sheet">
      <p class="path one-line">{{ url }}</p>
      <p class="title" :style="{ fontSize: `${COMMON_LIMITS.fontPx * SCALE}px` }">
        {{ shown || say('common.noTitle') }}
      </p>
      <p class="text">
        {{ text || say('resultPreview.withoutADescriptionWhateverThe') }}
      </p>
      <span class="edge" :style="{ insetInlineStart: `${limits.titlePx * SCALE + 12}px` }" aria-hidden="true" />
    </div>
    <figcaption class="quiet">
      {{
        say('resultPreview.aboutOfPxCutOff', {
          hasTitle: isMeasured(title),
          widthPx,
          titlePx: limits.titlePx,
          isCut,
          description: [...description].length,
          descriptionLetters: limits.descriptionLetters,
        })
      }}
    </figcaption>
  </figure>
</template>

<style scoped>
.result {
  margin: 10px 0 12px;
}
.sheet {
  position: relative;
  border: var(--line);
  border-left: 3px solid var(--stone-3);
  background: var(--paper);
  padding: 10px 12px;
  overflow: hidden;
  font-family: Arimo, sans-serif;
  font-stretch: normal;
}
p {
  margin: 0;
}
.path {
  font-size: 10px;
  line-height: 14px;
  color: var(--ink-5);
}
.title {
  line-height: 20px;
  color: var(--ink-9);
  white-space: nowrap;
  text-decoration: underline;
  text-decoration-color: var(--stone-3);
  text-underline-offset: 3px;
}
.text {
  font-size: 11px;
  line-height: 15px;
  color: var(--ink-7);
  margin-top: 3px;
}
.edge {
  position: absolute;
  inset-block: 0;
  border-inline-start: 1px dashed var(--stone-3);
}
figcaption {
  margin-top: 4px;
}
</style>
