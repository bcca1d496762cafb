<script setup lang="ts">
/** Which name visitors are meant to see, and those that lead to it. */
import { addressApi } from '@fastigium/contracts/api/address';
import { computed, ref } from 'vue';
import { call } from '../../api/client.ts';
import LabelledField from '../../components/LabelledField.vue';
import { useSession } from '../../stores/session.ts';
import { useAddress } from './address.ts';
import { inBackground } from '../../stores/background.ts';

const { view, busy, act } = useAddress();
const session = useSession();
const domain = computed(() => view.value?.domain);
const further = ref('');

function makeMain(form: 'www' | 'apex'): void {
  if (form === domain.value?.mainForm) return;
  inBackground(
    act(
      (site) => call(addressApi.settings, { params: { site }, body: { mainForm: form } }),
      'The other name redirects to it from now on.',
    ),
  );
}
async function add(): Promise<void> {
  if (
    await act(
      (site) => call(addressApi.further, { params: { site }, body: { name: further.value } }),
      'It redirects to the main address once its records are right.',
    )
  )
    further.value = '';
}
function remove(name: string): void {
  inBackground(
    act(
      (site) => call(addressApi.leave, { params: { site, name: name.replace(/^www\./, '') } }),
      `${name} no longer redirects here.`,
    ),
  );
}
</script>

<template>
  <hr class="rule" />
  <h2 class="heading">Which address is the main one</h2>
  <div v-if="domain?.hasPair" class="names" role="radiogroup" aria-label="Main address">
    <label v-for="form in ['www', 'apex'] as const" :key="form">
      <input
        type="radio"
        name="main"
        :checked="domain.mainForm === form"
        :disabled="busy || !session.mayEdit"
        @change="makeMain(form)"
      />
      <span class="address">{{ form === 'www' ? `www.${domain.name}` : domain.name }}</span>
      <span v-if="domain.mainForm !== form" class="quiet">308 to the main one</span>
    </label>
  </div>
  <p v-else class="address">{{ domain?.main }}</p>
  <ul class="names">
    <li v-for="other in domain?.others.filter((each) => each.further)" :key="other.name">
      <span class="address">{{ other.name }}</span>{{ ' ' }}
      <span class="quiet">{{ other.status }} to the main one, path and query kept</span>
      {{ ' ' }}
      <button
        v-if="session.mayEdit && !other.name.startsWith('www.')"
        class="text-link small"
        type="button"
        @click="remove(other.name)"
      >
        let go
      </button>
    </li>
  </ul>
  <form v-if="session.mayEdit" class="further" @submit.prevent="add">
    <LabelledField
      v-model="further"
      class="grow"
      label="A further or an old domain that should lead here"
      placeholder="lantern-moor.example"
    />
    <v-btn type="submit" height="36" :disabled="busy || further.trim() === ''">Add</v-btn>
  </form>
</template>

<style scoped>
.names {
  display: grid;
  gap: 6px;
  list-style: none;
  padding: 0;
  margin: 0 0 8px;
}
label {
  display: flex;
  gap: 8px;
  align-items: baseline;
  cursor: pointer;
}
input[type='radio'] {
  accent-color: var(--lapis);
}
.further {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: end;
}
.small {
  font-size: 12px;
}
</style>
