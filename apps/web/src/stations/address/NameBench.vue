<script setup lang="ts">
/** Registration: the name that is looked at with its score and cost, or bringing one that is owned. */
import { addressApi } from '@fastigium/contracts/api/address';
import { computed, ref } from 'vue';
import { call } from '../../api/client.ts';
import LabelledField from '../../components/LabelledField.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { formatMoney } from '../../logic/duration.ts';
import { useSession } from '../../stores/session.ts';
import { useAddress } from './address.ts';
import { useFinder } from './finder.ts';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

const { view, busy, act } = useAddress();
const { chosen, selected } = useFinder();
const session = useSession();
const owned = ref('');
const years = ref(1);
const privacy = ref('with');
const letting = ref(false);
const domain = computed(() => view.value?.domain);
const costs = computed(() => (privacy.value === 'with' ? chosen.value?.costsWithPrivacy : chosen.value?.costs) ?? []);
const formatPrice = (cents: number) => formatMoney(cents, chosen.value?.currency ?? 'USD');

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
    say('nameBench.isRegisteredAndConnected', { name }),
  );
}
async function letGo(): Promise<void> {
  const name = domain.value?.name ?? '';
  if (
    await act(
      (site) => call(addressApi.leave, { params: { site, name } }),
      say('nameBench.noLongerLeadsToThis', { name }),
    )
  )
    letting.value = false;
}
</script>

<template>
  <template v-if="chosen">
    <h1 class="title-face">{{ chosen.unicode }}</h1>
    <p class="quiet">{{ chosen.unicode === chosen.name ? '' : `${chosen.name}, ` }}{{ speak(chosen.words) }}</p>
    <template v-if="chosen.state === 'free'">
      <h2 class="heading gap">
        {{ say('nameBench.whatItCosts')
        }}<SegmentedChoice
          v-model="privacy"
          :label="say('nameBench.privacy')"
          :options="[
            { value: 'with', label: say('nameBench.withPrivacy') },
            { value: 'without', label: say('nameBench.without') },
          ]"
        />
      </h2>
      <table>
        <thead>
          <tr>
            <th>{{ say('nameBench.years') }}</th>
            <th class="figure">{{ say('nameBench.inAll') }}</th>
            <th class="figure">{{ say('nameBench.aYear') }}</th>
            <th class="figure">{{ say('nameBench.renewalAYear') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="cost in costs" :key="cost.years" :class="{ on: cost.years === years }" @click="years = cost.years">
            <td>
              <label><input v-model="years" type="radio" name="years" :value="cost.years" /> {{ cost.years }}</label>
            </td>
            <td class="figure strong">{{ formatPrice(cost.totalCents) }}</td>
            <td class="figure">{{ formatPrice(cost.perYearCents) }}</td>
            <td class="figure">{{ formatPrice(cost.renewalCents) }}</td>
          </tr>
        </tbody>
      </table>
      <p class="quiet">
        {{
          privacy === 'with'
            ? say('nameBench.privacyKeepsYourAddressOut')
            : say('nameBench.withoutPrivacyAnyoneCanRead')
        }}
      </p>
      <v-btn
        v-if="session.person?.role === 'owner'"
        class="buy"
        variant="flat"
        color="primary"
        :loading="busy"
        @click="register"
        >{{ say('nameBench.registerAndConnect', { unicode: chosen.unicode }) }}</v-btn
      >
      <p v-else class="quiet">{{ say('nameBench.anOwnerOfTheTeam') }}</p>
    </template>
    <v-btn
      v-else-if="chosen.state === 'taken' && session.mayEdit"
      class="buy"
      :loading="busy"
      @click="bring(chosen.name)"
      >{{ say('nameBench.itIsOursConnectIt') }}</v-btn
    >
    <h2 class="heading gap">
      {{ say('nameBench.howGoodANameIt')
      }}<span class="quiet">{{ say('nameBench.of100', { points: chosen.score.points }) }}</span>
    </h2>
    <ul class="reasons">
      <li v-for="reason in chosen.score.reasons" :key="reason.message.code">
        <span class="figure" :class="reason.points < 0 ? 'wrong' : 'right'"
          >{{ reason.points > 0 ? '+' : '' }}{{ reason.points }}</span
        >{{ speak(reason.message) }}
      </li>
    </ul>
    <hr class="rule" />
  </template>
  <h1 v-if="!domain && !chosen" class="title-face">{{ say('nameBench.aNameForTheSite') }}</h1>
  <template v-if="domain && !chosen">
    <h1 class="title-face">{{ domain.unicode }}</h1>
    <p class="quiet">
      {{
        say('nameBench.connectedVisitorsSee', {
          unicode: domain.unicode === domain.name ? '' : `${domain.name}; `,
          main: domain.main,
        })
      }}
    </p>
    <hr class="rule" />
  </template>
  <template v-if="session.mayEdit">
    <h2 class="heading">
      {{ domain ? say('nameBench.connectAnotherNameInstead') : say('nameBench.bringANameYouOwn') }}
    </h2>
    <form class="bring" @submit.prevent="bring(owned)">
      <LabelledField
        v-model="owned"
        class="grow"
        :label="say('nameBench.theNameAsYouWould')"
        placeholder="lanternmoor.example"
      />
      <v-btn
        type="submit"
        height="36"
        :variant="domain || chosen ? 'outlined' : 'flat'"
        :color="domain || chosen ? undefined : 'primary'"
        :disabled="busy || owned.trim() === ''"
        :loading="busy"
        >{{ say('nameBench.connect') }}</v-btn
      >
    </form>
    <p class="quiet">{{ say('nameBench.nothingChangesForVisitorsYet') }}</p>
    <p v-if="domain" class="let">
      <button v-if="!letting" class="text-link" type="button" @click="letting = true">
        {{ say('nameBench.letGo', { unicode: domain.unicode }) }}
      </button>
      <template v-else
        >{{ say('nameBench.theRegistrationStaysYours', { hasTemporary: Boolean(view?.temporary) }) }}
        <button class="text-link" type="button" @click="letGo">{{ say('common.letItGo') }}</button>{{ ' ' }}
        <button class="text-link" type="button" @click="letting = false">
          {{ say('nameBench.keepIt') }}
        </button></template
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
