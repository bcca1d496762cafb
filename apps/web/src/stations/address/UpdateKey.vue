<script setup lang="ts">
/** A key for DNS updates: kept sealed, never shown again. */
import { addressApi } from '@fastigium/contracts/api/address';
import { reactive } from 'vue';
import { call } from '../../api/client.ts';
import LabelledField from '../../components/LabelledField.vue';
import { useAddress } from './address.ts';
import { say } from './words.ts';

const emit = defineEmits<{ done: [] }>();
const { act, busy } = useAddress();
const form = reactive({ server: '', keyName: '', secret: '' });

async function keep(): Promise<void> {
  if (
    await act(
      (site) => call(addressApi.updateKey, { params: { site }, body: { ...form, algorithm: 'hmac-sha256' } }),
      say('updateKey.theKeyIsKeptSealed'),
    )
  )
    emit('done');
}
</script>

<template>
  <form class="key" @submit.prevent="keep">
    <LabelledField
      v-model="form.server"
      :label="say('updateKey.nameServerAddressAndPort')"
      placeholder="192.0.2.1:53"
      class="address"
    />
    <LabelledField
      v-model="form.keyName"
      :label="say('updateKey.nameOfTheKey')"
      placeholder="update.lanternmoor.example"
    />
    <LabelledField
      v-model="form.secret"
      :label="say('updateKey.secretBase64HmacSha256')"
      type="password"
      autocomplete="off"
    />
    <v-btn type="submit" :disabled="busy">{{ say('updateKey.keepTheKey') }}</v-btn>
  </form>
</template>

<style scoped>
.key {
  display: grid;
  gap: 10px;
  justify-items: stretch;
  padding: 10px 0;
}
.key .v-btn {
  justify-self: start;
}
</style>
