<script setup lang="ts">
/** A server over SFTP: its key is shown and agreed to before anything else is said to it. */
import { hostingApi } from '@fastigium/contracts/api/hosting';
import { ref } from 'vue';
import { call } from '../../../api/client.ts';
import LabelledField from '../../../components/LabelledField.vue';
import SegmentedChoice from '../../../components/SegmentedChoice.vue';
import { useNotices } from '../../../stores/notices.ts';
import { useSite } from '../../../stores/site.ts';
import { useHosting } from '../hosting.ts';
import { say } from '../words.ts';

const { busy, act } = useHosting();
const site = useSite();
const notices = useNotices();
const fields = ref({ server: '', port: '22', user: '', folder: '', url: '', log: '', password: '', key: '' });
const way = ref<'password' | 'key'>('password');
const fingerprint = ref<string>();
const asking = ref(false);

async function askKey(): Promise<void> {
  if (site.id === undefined) return;
  asking.value = true;
  try {
    fingerprint.value = (
      await call(hostingApi.hostKey, {
        params: { site: site.id },
        body: { server: fields.value.server, port: Number(fields.value.port) },
      })
    ).fingerprint;
  } catch (error) {
    notices.problem(error);
  } finally {
    asking.value = false;
  }
}

function connect(): Promise<boolean> {
  return act(
    (id) =>
      call(hostingApi.connect, {
        params: { site: id },
        body: {
          kind: 'sftp',
          server: fields.value.server,
          port: Number(fields.value.port),
          user: fields.value.user,
          folder: fields.value.folder,
          ...(fingerprint.value === undefined ? {} : { fingerprint: fingerprint.value }),
          ...(fields.value.url === '' ? {} : { url: fields.value.url }),
          ...(fields.value.log.trim() === '' ? {} : { log: fields.value.log.trim() }),
          ...(way.value === 'password' ? { password: fields.value.password } : { key: fields.value.key }),
        },
      }),
    say('sftpForm.theServerWasTriedAnd'),
  );
}
</script>

<template>
  <form class="sftp" @submit.prevent="fingerprint === undefined ? askKey() : connect()">
    <div class="pair">
      <LabelledField
        v-model="fields.server"
        :label="say('sftpForm.server')"
        placeholder="files.host.test"
        @update:model-value="fingerprint = undefined"
      /><LabelledField
        v-model="fields.port"
        :label="say('sftpForm.port')"
        inputmode="numeric"
        @update:model-value="fingerprint = undefined"
      />
    </div>
    <LabelledField v-model="fields.user" :label="say('sftpForm.user')" autocomplete="off" />
    <SegmentedChoice
      v-model="way"
      :label="say('sftpForm.signInWith')"
      :options="[
        { value: 'password', label: say('common.password') },
        { value: 'key', label: say('sftpForm.privateKey') },
      ]"
    />
    <LabelledField
      v-if="way === 'password'"
      v-model="fields.password"
      :label="say('common.password')"
      type="password"
      autocomplete="off"
    />
    <label v-else class="quiet"
      >{{ say('sftpForm.privateKeyPemOrOpenssh')
      }}<textarea v-model="fields.key" class="address" rows="4" spellcheck="false" />
    </label>
    <LabelledField v-model="fields.folder" :label="say('sftpForm.folderThere')" placeholder="/var/www/lanternmoor" />
    <LabelledField
      v-if="fingerprint !== undefined"
      v-model="fields.log"
      :label="say('sftpForm.accessLogThereForWatch')"
      placeholder="/var/log/nginx/access.log"
    />
    <LabelledField
      v-model="fields.url"
      :label="say('sftpForm.whereItAnswersNotNeeded')"
      placeholder="http://192.0.2.80/"
    />
    <p v-if="fingerprint" class="shown">
      {{ say('sftpForm.theServerShowsThisKey') }}<br /><span class="address">{{ fingerprint }}</span>
    </p>
    <v-btn
      type="submit"
      :loading="busy || asking"
      :disabled="fields.server === '' || (fingerprint !== undefined && (fields.user === '' || fields.folder === ''))"
      >{{ fingerprint === undefined ? say('sftpForm.askForItsKey') : say('sftpForm.itIsTheRightKey') }}</v-btn
    >
  </form>
</template>

<style scoped>
.sftp {
  display: grid;
  gap: 10px;
  margin-top: 12px;
  justify-items: stretch;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 84px;
  gap: 8px;
}
.shown {
  border-left: 3px solid var(--ochre);
  padding-left: 10px;
  margin: 0;
}
.v-btn {
  justify-self: start;
}
</style>
