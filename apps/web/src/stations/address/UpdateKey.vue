<script setup lang="ts">
/** A key for DNS updates: kept sealed, never shown again. */
import { addressApi } from '@fastigium/contracts/api/address';
import { reactive } from 'vue';
import { call } from '../../api/client.ts';
import LabelledField from '../../components/LabelledField.vue';
import { useAddress } from './address.ts';

const emit = defineEmits<{ done: [] }>();
const { act, busy } = useAddress();
const form = reactive({ server: '', keyName: '', secret: '' });

async function keep(): Promise<void> {
  if (
    await act(
      (site) => call(addressApi.updateKey, { params: { site }, body: { ...form, algorithm: 'hmac-sha256' } }),
      'The key is kept, sealed.',
    )
  )
    emit('done');
}
</script>

<template>
  <form class="key" @submit.prevent="keep">
    <LabelledField
      v-model="form.server"
      label="Name server, address and port"
      placeholder="192.0.2.1:53"
      class="address"
    />
    <LabelledField v-model="form.keyName" label="Name of the key" placeholder="update.lanternmoor.example" />
    <LabelledField v-model="form.secret" label="Secret (base64, hmac-sha256)" type="password" autocomplete="off" />
    <v-btn type="submit" :disabled="busy">Keep the key</v-btn>
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
