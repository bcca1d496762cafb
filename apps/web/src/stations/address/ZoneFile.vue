<script setup lang="ts">
/** The zone as a master file (RFC 1035): out with everything needed in it, in so that nothing of before is lost. */
import { addressApi } from '@fastigium/contracts/api/address';
import type { AnswerOf } from '@fastigium/contracts/endpoint';
import { onMounted, ref, shallowRef } from 'vue';
import { call } from '../../api/client.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { useAddress } from './address.ts';
import { explain } from '../../words/index.ts';
import { say } from './words.ts';

defineEmits<{ close: [] }>();
const site = useSite();
const session = useSession();
const notices = useNotices();
const { act } = useAddress();
const zone = shallowRef<AnswerOf<typeof addressApi.zone>>();
const brought = ref('');
const taken = ref('');
const problem = ref('');

async function read(): Promise<void> {
  if (site.id === undefined) return;
  try {
    zone.value = await call(addressApi.zone, { params: { site: site.id } });
  } catch (error) {
    notices.problem(error);
  }
}
onMounted(read);

async function bring(): Promise<void> {
  if (site.id === undefined) return;
  problem.value = '';
  try {
    const { records, kept } = await call(addressApi.bringZone, {
      params: { site: site.id },
      body: { text: brought.value },
    });
    taken.value = say('zoneFile.recordsReadOfThemAre', { records, kept });
    brought.value = '';
    await read();
    await act((id) => call(addressApi.view, { params: { site: id } }));
  } catch (error) {
    problem.value = explain(error);
  }
}

async function copy(): Promise<void> {
  await navigator.clipboard
    .writeText(zone.value?.text ?? '')
    .then(() => notices.done(say('zoneFile.theZoneFileIsCopied')), notices.problem);
}

function save(): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([zone.value?.text ?? ''], { type: 'text/dns' }));
  link.download = `${zone.value?.zone}.zone`;
  link.click();
  URL.revokeObjectURL(link.href);
}
</script>

<template>
  <v-dialog
    model-value
    :aria-label="say('zoneFile.zoneFile')"
    max-width="820"
    scrollable
    @update:model-value="$emit('close')"
  >
    <v-sheet class="panel">
      <h2 class="title-face">{{ say('zoneFile.zoneFileOf', { zone: zone?.zone ?? '…' }) }}</h2>
      <p class="quiet">
        {{ say('zoneFile.asItIsToBe', { source: zone?.source ?? '…' }) }}
      </p>
      <pre class="address" tabindex="0">{{ zone?.text ?? say('zoneFile.reading') }}</pre>
      <div class="buttons">
        <v-btn @click="copy">{{ say('zoneFile.copy') }}</v-btn><v-btn @click="save">{{
          say('zoneFile.saveAsAFile')
        }}</v-btn
        ><v-btn @click="$emit('close')">{{ say('common.close') }}</v-btn>
      </div>
      <template v-if="session.mayEdit">
        <hr class="rule" />
        <label class="heading" for="zone-in">{{ say('zoneFile.bringInTheZoneOf') }}</label>
        <p class="quiet">{{ say('zoneFile.soThatNamesNobodyAsked') }}</p>
        <textarea
          id="zone-in"
          v-model="brought"
          class="source"
          rows="6"
          spellcheck="false"
          :placeholder="say('zoneFile.originLanternmoorExample')"
        />
        <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
        <p v-if="taken" role="status">{{ taken }}</p>
        <v-btn class="bring" :disabled="brought.trim() === ''" @click="bring">{{ say('zoneFile.readIt') }}</v-btn>
      </template>
    </v-sheet>
  </v-dialog>
</template>

<style scoped>
.panel {
  padding: 16px 20px;
  border: 1px solid var(--stone-3);
  border-radius: 3px;
  overflow: auto;
}
pre {
  background: var(--stone-1);
  border: var(--line);
  padding: 10px 12px;
  margin: 0 0 12px;
  overflow: auto;
  max-height: 300px;
  white-space: pre;
  font-size: 12px;
  line-height: 18px;
}
.buttons {
  display: flex;
  gap: 8px;
}
.bring {
  margin-top: 8px;
}
p {
  margin: 2px 0 8px;
}
</style>
