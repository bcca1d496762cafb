<script setup lang="ts">
/** Which name visitors are meant to see, and those that lead to it. */
import { addressApi } from '@fastigium/contracts/api/address';
import { computed, ref } from 'vue';
import { call } from '../../api/client.ts';
import LabelledField from '../../components/LabelledField.vue';
import { useSession } from '../../stores/session.ts';
import { useAddress } from './address.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';

const { view, busy, act } = useAddress();
const session = useSession();
const domain = computed(() => view.value?.domain);
const further = ref('');

function makeMain(form: 'www' | 'apex'): void {
  if (form === domain.value?.mainForm) return;
  runInBackground(
    act(
      (site) => call(addressApi.settings, { params: { site }, body: { mainForm: form } }),
      say('mainAddress.theOtherNameRedirectsTo'),
    ),
  );
}
async function add(): Promise<void> {
  if (
    await act(
      (site) => call(addressApi.further, { params: { site }, body: { name: further.value } }),
      say('mainAddress.itRedirectsToTheMain'),
    )
  )
    further.value = '';
}
function remove(name: string): void {
  runInBackground(
    act(
      (site) => call(addressApi.leave, { params: { site, name: name.replace(/^www\./, '') } }),
      say('mainAddress.noLongerRedirectsHere', { name }),
    ),
  );
}
</script>

<template>
  <hr class="rule" />
  <h2 class="heading">{{ say('mainAddress.whichAddressIsTheMain') }}</h2>
  <div v-if="domain?.hasPair" class="names" role="radiogroup" :aria-label="say('mainAddress.mainAddress')">
    <label v-for="form in ['www', 'apex'] as const" :key="form">
      <input
        type="radio"
        name="main"
        :checked="domain.mainForm === form"
        :disabled="busy || !session.mayEdit"
        @change="makeMain(form)"
      />
      <span class="address">{{ form === 'www' ? say('mainAddress.www', { name: domain.name }) : domain.name }}</span>
      <span v-if="domain.mainForm !== form" class="quiet">{{ say('mainAddress.n308ToTheMainOne') }}</span>
    </label>
  </div>
  <p v-else class="address">{{ domain?.main }}</p>
  <ul class="names">
    <li v-for="other in domain?.others.filter((each) => each.further)" :key="other.name">
      <span class="address">{{ other.name }}</span>{{ ' ' }}
      <span class="quiet">{{ say('mainAddress.toTheMainOnePath', { status: other.status }) }}</span>
      {{ ' ' }}
      <button
        v-if="session.mayEdit && !other.name.startsWith('www.')"
        class="text-link small"
        type="button"
        @click="remove(other.name)"
      >
        {{ say('mainAddress.letGo') }}
      </button>
    </li>
  </ul>
  <form v-if="session.mayEdit" class="further" @submit.prevent="add">
    <LabelledField
      v-model="further"
      class="grow"
      :label="say('mainAddress.aFurtherOrAnOld')"
      placeholder="lantern-moor.example"
    />
    <v-btn type="submit" height="36" :disabled="busy || further.trim() === ''">{{ say('common.add') }}</v-btn>
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
