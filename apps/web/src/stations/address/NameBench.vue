<script setup lang="ts">
/** Registration: the name that is looked at with its score and cost, or bringing one that is owned. */
import { addressApi } from '@fastigium/contracts/api/address';
import { computed, ref } from 'vue';
import { call } from '../../api/client.ts';
import LabelledField from '../../components/LabelledField.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { money } from '../../logic/duration.ts';
import { useSession } from '../../stores/session.ts';
import { useAddress } from './address.ts';
import { useFinder } from './finder.ts';

const { view, busy, act } = useAddress();
const { chosen, selected } = useFinder();
const session = useSession();
const owned = ref('');
const years = ref(1);
const privacy = ref('with');
const letting = ref(false);
const domain = computed(() => view.value?.domain);
const costs = computed(() => (privacy.value === 'with' ? chosen.value?.costsWithPrivacy : chosen.value?.costs) ?? []);
const price = (cents: number) => money(cents, chosen.value?.currency ?? 'USD');

async function bring(name: string): Promise<void> {
  if (!(await act((site) => call(addressApi.bring, { params: { site }, body: { name } })))) return;
  owned.value = '';
  selected.value = undefined;
}
function register(): Promise<boolean> {
  const name = chosen.value?.name ?? '';
  return act(
    (site) =>
      call(addressApi.register, {
        params: { site },
        body: { name, years: years.value, privacy: privacy.value === 'with' },
      }),
    `${name} is registered and connected.`,
  );
}
async function letGo(): Promise<void> {
  const name = domain.value?.name ?? '';
  if (
    await act(
      (site) => call(addressApi.leave, { params: { site, name } }),
      `${name} no longer leads to this site; its registration is as it was.`,
    )
  )
    letting.value = false;
}
</script>

<template>
  <template v-if="chosen">
    <h1 class="title-face">{{ chosen.unicode }}</h1>
    <p class="quiet">{{ chosen.unicode === chosen.name ? '' : `${chosen.name}, ` }}{{ chosen.words }}</p>
    <template v-if="chosen.state === 'free'">
      <h2 class="heading gap">
        What it costs<SegmentedChoice
          v-model="privacy"
          label="Privacy"
          :options="[
            { value: 'with', label: 'with privacy' },
            { value: 'without', label: 'without' },
          ]"
        />
      </h2>
      <table>
        <thead>
          <tr>
            <th>Years</th>
            <th class="figure">In all</th>
            <th class="figure">A year</th>
            <th class="figure">Renewal, a year</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="cost in costs" :key="cost.years" :class="{ on: cost.years === years }" @click="years = cost.years">
            <td>
              <label><input v-model="years" type="radio" name="years" :value="cost.years" /> {{ cost.years }}</label>
            </td>
            <td class="figure strong">{{ price(cost.totalCents) }}</td>
            <td class="figure">{{ price(cost.perYearCents) }}</td>
            <td class="figure">{{ price(cost.renewalCents) }}</td>
          </tr>
        </tbody>
      </table>
      <p class="quiet">
        {{
          privacy === 'with'
            ? 'Privacy keeps your address out of the public register; it is in the price.'
            : 'Without privacy anyone can read who holds the name.'
        }}
      </p>
      <v-btn
        v-if="session.person?.role === 'owner'"
        class="buy"
        variant="flat"
        color="primary"
        :loading="busy"
        @click="register"
        >Register and connect {{ chosen.unicode }}</v-btn
      >
      <p v-else class="quiet">An owner of the team can register it.</p>
    </template>
    <v-btn
      v-else-if="chosen.state === 'taken' && session.mayEdit"
      class="buy"
      :loading="busy"
      @click="bring(chosen.name)"
      >It is ours: connect it</v-btn
    >
    <h2 class="heading gap">
      How good a name it is<span class="quiet">{{ chosen.score.points }} of 100</span>
    </h2>
    <ul class="reasons">
      <li v-for="reason in chosen.score.reasons" :key="reason.words">
        <span class="figure" :class="reason.points < 0 ? 'wrong' : 'right'"
          >{{ reason.points > 0 ? '+' : '' }}{{ reason.points }}</span
        >{{ reason.words }}
      </li>
    </ul>
    <hr class="rule" />
  </template>
  <h1 v-if="!domain && !chosen" class="title-face">A name for the site</h1>
  <template v-if="domain && !chosen">
    <h1 class="title-face">{{ domain.unicode }}</h1>
    <p class="quiet">
      {{ domain.unicode === domain.name ? '' : `${domain.name}; ` }}connected; visitors see {{ domain.main }}
    </p>
    <hr class="rule" />
  </template>
  <template v-if="session.mayEdit">
    <h2 class="heading">{{ domain ? 'Connect another name instead' : 'Bring a name you own' }}</h2>
    <form class="bring" @submit.prevent="bring(owned)">
      <LabelledField
        v-model="owned"
        class="grow"
        label="The name, as you would type it"
        placeholder="lanternmoor.example"
      />
      <v-btn
        type="submit"
        height="36"
        :variant="domain || chosen ? 'outlined' : 'flat'"
        :color="domain || chosen ? undefined : 'primary'"
        :disabled="busy || owned.trim() === ''"
        :loading="busy"
        >Connect</v-btn
      >
    </form>
    <p class="quiet">Nothing changes for visitors yet: first we look at where it leads now.</p>
    <p v-if="domain" class="let">
      <button v-if="!letting" class="text-link" type="button" @click="letting = true">
        Let {{ domain.unicode }} go
      </button>
      <template v-else
        >{{ view?.temporary ? 'The site keeps its temporary address; the' : 'The' }} registration stays yours.
        <button class="text-link" type="button" @click="letGo">Let it go</button>{{ ' ' }}
        <button class="text-link" type="button" @click="letting = false">Keep it</button></template
      >
    </p>
  </template>
</template>

<style scoped>
p {
  margin: 4px 0;
}
.title-face + .heading {
  margin-top: 12px;
}
.gap {
  margin-top: 14px;
  align-items: center;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  font-size: 12px;
  font-weight: 400;
  color: var(--ink-5);
  text-align: left;
  padding: 4px 6px;
  border-bottom: var(--line);
}
th.figure {
  text-align: right;
}
td {
  padding: 6px;
  border-bottom: var(--line);
  cursor: pointer;
}
tr.on {
  background: var(--lapis-tint);
}
input[type='radio'] {
  accent-color: var(--lapis);
}
.buy {
  margin: 8px 0;
}
.reasons {
  list-style: none;
  padding: 0;
  margin: 0;
  display: grid;
  gap: 3px;
}
.reasons li {
  display: grid;
  grid-template-columns: 32px 1fr;
  gap: 10px;
}
.bring {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: end;
}
.let {
  margin-top: 16px;
}
</style>
