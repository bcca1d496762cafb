<script setup lang="ts">
/** What is still known of the page that stood at an old address. */
import type { OldAddress } from '@fastigium/contracts/api/redirects';
import { computed } from 'vue';
import { SOURCE_WORDS } from './sources.ts';
import { say } from '../words.ts';

const props = defineProps<{ old: OldAddress }>();
const seen = computed(() => {
  const { seen: places, visits, lastSeen, oldStatus } = props.old;
  const parts = [
    places.length === 0
      ? ''
      : say('oldPageCard.seenIn', { places: places.map(({ source }) => SOURCE_WORDS[source]).join(', ') }),
    visits === null ? say('oldPageCard.noVisitsKnown') : say('oldPageCard.visits', { visits }),
    lastSeen === null
      ? ''
      : say('oldPageCard.lastOn', {
          lastSeen: new Date(lastSeen).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' }),
        }),
    oldStatus === null || oldStatus === 200 ? '' : say('oldPageCard.answered', { oldStatus }),
  ];
  return parts.filter((part) => part !== '').join(', ');
});
</script>

<template>
  <p class="quiet">{{ seen }}.</p>
  <div v-if="old.title || old.text" class="card">
    <p v-if="old.title" class="strong">{{ old.title }}</p>
    <p v-if="old.text" class="quiet text">{{ old.text }}</p>
  </div>
</template>

<style scoped>
p {
  margin: 2px 0;
}
.card {
  background: var(--stone-1);
  border: var(--line);
  border-radius: 3px;
  padding: 8px 12px;
  margin-block-start: 8px;
}
.text {
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 3;
  overflow: hidden;
}
</style>
