<script setup lang="ts">
/** A folder of the machine Fastigium runs on. */
import { hostingApi } from '@fastigium/contracts/api/hosting';
import { reactive } from 'vue';
import { call } from '../../../api/client.ts';
import LabelledField from '../../../components/LabelledField.vue';
import { useHosting } from '../hosting.ts';
import { say } from '../words.ts';

const { view, busy, act } = useHosting();
const fields = reactive({ folder: '', url: '', log: '' });

const connect = () =>
  act(
    (site) =>
      call(hostingApi.connect, {
        params: { site },
        body: {
          kind: 'folder',
          folder: fields.folder,
          ...(fields.url === '' ? {} : { url: fields.url }),
          ...(fields.log.trim() === '' ? {} : { log: fields.log.trim() }),
        },
      }),
    say('hostBench.theFolderWasTriedAnd'),
  );
</script>

<template>
  <p v-if="view?.folders.length === 0" class="note">
    {{ say('hostBench.whoeverRunsThisFastigiumHas') }}
  </p>
  <form v-else class="own" @submit.prevent="connect">
    <LabelledField
      v-model="fields.folder"
      :label="say('hostBench.folderOnThisMachineIts')"
      placeholder="/srv/www/lanternmoor"
    />
    <LabelledField
      v-model="fields.url"
      :label="say('hostBench.whereItAnswersNotNeeded')"
      placeholder="http://192.0.2.80/"
    />
    <LabelledField
      v-model="fields.log"
      :label="say('hostBench.accessLogOfItsWeb')"
      placeholder="/var/log/nginx/access.log"
    />
    <p class="quiet">
      {{ say('hostBench.aFileIsWrittenLinked') }} <span class="address">{{ view?.folders.join(', ') }}</span>.
    </p>
    <v-btn type="submit" :disabled="busy || fields.folder.trim() === ''" :loading="busy">{{
      say('hostBench.tryAndConnectIt')
    }}</v-btn>
  </form>
</template>

<style scoped>
p {
  margin: 4px 0;
}
.own {
  display: grid;
  gap: 10px;
  margin-top: 12px;
}
.own .v-btn {
  justify-self: start;
}
</style>
