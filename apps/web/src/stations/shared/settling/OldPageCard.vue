<script setup lang="ts">
/** What is still known of the page that stood at an old address. */
import type { OldAddress } from '@fastigium/contracts/api/redirects';
import { computed } from 'vue';
import { count } from '../../../logic/format.ts';
import { SOURCE_WORDS } from './sources.ts';

const props = defineProps<{ old: OldAddress }>();
const seen = computed(() => {
  const { seen: places, visits, lastSeen, oldStatus } = props.old;
  const parts = [
    places.length === 0 ? '' : `Seen in ${places.map(({ source }) => SOURCE_WORDS[source]).join(', ')}`,
    visits === null ? 'no visits known' : count(visits, 'visit'),
    lastSeen === null
      ? ''
      : `last on ${new Date(lastSeen).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })}`,
    oldStatus === null || oldStatus === 200 ? '' : `answered ${oldStatus}`,
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
