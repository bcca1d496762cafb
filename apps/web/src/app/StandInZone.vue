<script setup lang="ts">
/** The registrar's own zone panel: records changed by hand, as they would be elsewhere. */
import { standInsApi } from '@fastigium/contracts/api/standIns';
import { ref } from 'vue';
import { call } from '../api/client.ts';
import { useNotices } from '../stores/notices.ts';
import { useSession } from '../stores/session.ts';
import { useSite } from '../stores/site.ts';
import { explain } from '../words/index.ts';
import { say } from './words.ts';

const site = useSite();
const session = useSession();
const notices = useNotices();
const zone = ref((site.overview?.address?.main ?? '').replace(/^www\./, ''));
const text = ref<string>();
const problem = ref('');

async function open(): Promise<void> {
  problem.value = '';
  try {
    text.value = (await call(standInsApi.zone, { params: { zone: zone.value.trim().toLowerCase() } })).text;
  } catch (error) {
    problem.value = explain(error);
  }
}

async function save(): Promise<void> {
  problem.value = '';
  try {
    await call(standInsApi.setZone, {
      params: { zone: zone.value.trim().toLowerCase() },
      body: { text: text.value ?? '' },
    });
    notices.done(say('standInZone.theZoneIsChangedAt', { zone: zone.value }));
    await open();
  } catch (error) {
    problem.value = explain(error);
  }
}
</script>

<template>
  <h3 class="heading gap">{{ say('standInZone.theRegistrarsZonePanel') }}</h3>
  <form class="ask" @submit.prevent="open">
    <input
      v-model="zone"
      class="address"
      :aria-label="say('standInZone.zone')"
      placeholder="lanternmoor.example"
      spellcheck="false"
    /><v-btn type="submit" height="30" :disabled="zone.trim() === ''">{{ say('standInZone.open') }}</v-btn>
  </form>
  <template v-if="text !== undefined">
    <textarea
      v-model="text"
      class="source"
      rows="12"
      :aria-label="say('standInZone.recordsOfTheZone')"
      spellcheck="false"
    />
    <v-btn :disabled="!session.mayEdit" @click="save">{{ say('standInZone.saveTheseRecords') }}</v-btn>
  </template>
  <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
</template>

<style scoped>
.gap {
  margin-top: 18px;
}
.ask {
  display: flex;
  gap: 8px;
  margin-bottom: 8px;
}
.ask input {
  flex: 1;
  padding: 4px 8px;
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  background: var(--bench);
  color: inherit;
}
textarea {
  margin-bottom: 8px;
  white-space: pre;
}
</style>
