<script setup lang="ts">
/** Name servers and resolvers: who is asked, and asking one more. */
import { addressApi } from '@fastigium/contracts/api/address';
import { computed, reactive } from 'vue';
import { call } from '../../api/client.ts';
import LabelledField from '../../components/LabelledField.vue';
import { useSession } from '../../stores/session.ts';
import { useAddress } from './address.ts';
import { say } from './words.ts';

const { view, busy, act, lookUp } = useAddress();
const session = useSession();
const resolvers = computed(() => view.value?.spread?.resolvers ?? []);
const form = reactive({ name: '', address: '' });

async function add(): Promise<void> {
  if (
    await act(
      (site) => call(addressApi.addResolver, { params: { site }, body: { ...form } }),
      say('resolversBench.isAskedFromNowOn', { name: form.name }),
    )
  )
    Object.assign(form, { name: '', address: '' });
}
const remove = (address: string) => act((site) => call(addressApi.removeResolver, { params: { site, address } }));
</script>

<template>
  <h1 class="title-face">{{ say('resolversBench.whoIsAsked') }}</h1>
  <p class="quiet">
    {{ say('resolversBench.theNameServersAndThese') }}
  </p>
  <ul>
    <li v-for="resolver in resolvers" :key="resolver.address">
      <span>{{ resolver.resolver }}</span><span class="address">{{ resolver.address }}</span>
      <button
        v-if="resolver.added && session.mayEdit"
        class="text-link small"
        type="button"
        @click="remove(resolver.address)"
      >
        {{ say('resolversBench.askItNoMore') }}
      </button>
    </li>
  </ul>
  <form v-if="session.mayEdit" @submit.prevent="add">
    <h2 class="heading">{{ say('resolversBench.askOneMore') }}</h2>
    <LabelledField
      v-model="form.name"
      :label="say('resolversBench.whatToCallIt')"
      :placeholder="say('resolversBench.theClientsOffice')"
    />
    <LabelledField v-model="form.address" :label="say('resolversBench.ipAddressWithAPort')" placeholder="192.0.2.53" />
    <v-btn type="submit" :disabled="busy || form.name.trim() === '' || form.address.trim() === ''">{{
      say('common.add')
    }}</v-btn>
  </form>
  <v-btn
    v-if="session.mayEdit && view?.domain"
    class="again"
    variant="flat"
    color="primary"
    :loading="busy"
    @click="lookUp"
    >{{ say('resolversBench.lookAgain') }}</v-btn
  >
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 10px 0 16px;
}
li {
  display: flex;
  gap: 12px;
  justify-content: space-between;
  padding: 7px 0;
  border-bottom: var(--line);
  align-items: baseline;
}
form {
  display: grid;
  gap: 10px;
}
form .v-btn {
  justify-self: start;
}
.again {
  margin-top: 16px;
}
.small {
  font-size: 12px;
}
</style>
