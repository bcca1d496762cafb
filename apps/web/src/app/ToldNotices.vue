<script setup lang="ts">
/** What others did with things of one's own, until it was read. */
import { removalsApi, type Notice } from '@fastigium/contracts/api/removals';
import { shallowRef } from 'vue';
import { call } from '../api/client.ts';
import { formatWhen } from '../logic/format.ts';
import { useNotices } from '../stores/notices.ts';
import { useReadAgain } from '../stores/readAgain.ts';
import { useSite } from '../stores/site.ts';
import { useWorld } from '../stores/world.ts';
import { speak } from '../words/index.ts';
import { say } from './words.ts';

const world = useWorld();
const site = useSite();
const notices = useNotices();
const told = shallowRef<readonly Notice[]>([]);
useReadAgain(
  async (id) => {
    told.value = await call(removalsApi.notices, { params: { site: id } });
  },
  ['notices'],
);

async function markSeen(notice: Notice): Promise<void> {
  if (site.id === undefined) return;
  try {
    await call(removalsApi.noticeSeen, { params: { site: site.id, notice: notice.id } });
    told.value = told.value.filter(({ id }) => id !== notice.id);
  } catch (error) {
    notices.problem(error);
  }
}
</script>

<template>
  <ul v-if="told.length > 0" :aria-label="say('toldNotices.whatYouAreToBe')">
    <li v-for="notice in told" :key="notice.id">
      <span>{{ speak(notice.message) }}</span><span class="quiet">{{ formatWhen(notice.at, world.now) }}</span
      ><button class="text-link" type="button" @click="markSeen(notice)">{{ say('toldNotices.read') }}</button>
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  flex: none;
  max-height: 30vh;
  overflow: auto;
  background: var(--ochre-tint);
}
li {
  display: flex;
  gap: 16px;
  align-items: baseline;
  padding: 7px 20px;
  border-bottom: var(--line);
}
li > :first-child {
  flex: 1;
  overflow-wrap: anywhere;
}
</style>
