<script setup lang="ts">
/** How a message would show a link to the page: the picture cut to the proportions most programs use, never stretched. */
import { computed } from 'vue';
import { cut } from './shareCut.ts';
import { say } from './words.ts';

const props = defineProps<{
  title: string;
  description: string;
  picture: string | undefined;
  widthPx: number | null;
  heightPx: number | null;
  host: string;
}>();
const loss = computed(() => (props.widthPx && props.heightPx ? cut(props.widthPx, props.heightPx) : undefined));
</script>

<template>
  <figure class="share" :aria-label="say('shareCard.howAMessageWouldShow')">
    <div class="card">
      <img v-if="picture" :src="picture" alt="" />
      <div v-else class="none quiet">{{ say('shareCard.noSharePicture') }}</div>
      <div class="words">
        <p class="host quiet one-line">{{ host }}</p>
        <p class="strong one-line">{{ title || say('common.noTitle') }}</p>
        <p class="quiet text">{{ description }}</p>
      </div>
    </div>
    <figcaption v-if="loss" class="quiet" :class="{ small: loss.isSmall }">
      {{ say('shareCard.byPxSmallerThan1200', { widthPx, heightPx, isSmall: loss.isSmall, words: loss.words }) }}
    </figcaption>
  </figure>
</template>

<style scoped>
.share {
  margin: 0 0 12px;
}
.card {
  display: grid;
  grid-template-columns: 150px 1fr;
  border: var(--line);
  border-left: 3px solid var(--stone-3);
  background: var(--paper);
}
img,
.none {
  width: 150px;
  aspect-ratio: 1.91;
  object-fit: cover;
  display: grid;
  place-items: center;
  background: var(--stone-1);
}
.words {
  padding: 6px 12px;
  min-width: 0;
  display: grid;
  align-content: center;
}
p {
  margin: 0;
  line-height: 17px;
}
.text {
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  line-clamp: 2;
  overflow: hidden;
}
figcaption {
  margin-top: 4px;
}
.small {
  color: var(--ochre-dark);
}
</style>
