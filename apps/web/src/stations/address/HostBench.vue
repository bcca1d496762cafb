<script setup lang="ts">
/** Host: the temporary address, the plan that was chosen, and places of one's own instead. */
import { hostingApi } from '@fastigium/contracts/api/hosting';
import type { HostKindName } from '@fastigium/contracts/hosts/request';
import { computed, ref, watch } from 'vue';
import { call } from '../../api/client.ts';
import LabelledField from '../../components/LabelledField.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { useSession } from '../../stores/session.ts';
import { useHosting } from './hosting.ts';
import BasePath from './BasePath.vue';
import { HOST_FORMS, OWN_HOST_KINDS } from './hosts/index.ts';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

const { view, busy, months, plan, region, act } = useHosting();
const session = useSession();
const label = ref('');
const place = ref<HostKindName>('stand-in');
const account = computed(() => view.value?.account);
/** The host that came with this Fastigium; undefined where none did. */
const standIn = computed(() => view.value?.temporary ?? undefined);
const hasHost = computed(() => account.value?.kind !== 'stand-in' || standIn.value !== undefined);
const mayMove = computed(() => session.mayEdit);
const title = computed(() => {
  const kind = account.value?.kind ?? 'stand-in';
  if (kind !== 'stand-in') return HOST_FORMS[kind].title();
  return standIn.value ? say('hostBench.theHostStandIn') : say('hostBench.noHostYet');
});
const places = computed(() => [
  ...(standIn.value ? [{ value: 'stand-in' as const, label: say('hostBench.hostStandIn') }] : []),
  ...OWN_HOST_KINDS.map((kind) => ({ value: kind, label: HOST_FORMS[kind].label() })),
]);
watch(
  account,
  (now) => {
    if (!now) return;
    place.value = now.kind === 'stand-in' && !standIn.value ? 'sftp' : now.kind;
    label.value = standIn.value?.label ?? '';
  },
  { immediate: true },
);
const chosen = computed(() => view.value?.plans.find((each) => each.plan.id === plan.value));
const isKept = computed(
  () =>
    account.value?.plan === plan.value &&
    account.value?.region === region.value &&
    account.value?.months === months.value,
);

const rename = () =>
  act(
    (site) =>
      call(hostingApi.temporary, {
        params: { site },
        body: { label: label.value.trim().toLowerCase(), keepOldDays: 30 },
      }),
    say('hostBench.theSiteAnswersThereNow'),
  );
const choose = () =>
  act(
    (site) =>
      call(hostingApi.choose, {
        params: { site },
        body: { plan: plan.value ?? '', region: region.value ?? '', months: months.value },
      }),
    say('hostBench.planIsTaken', { name: chosen.value?.plan.name }),
  );
const useStandIn = () =>
  act(
    (site) => call(hostingApi.connect, { params: { site }, body: { kind: 'stand-in' } }),
    say('hostBench.theSiteIsPublishedTo'),
  );
</script>

<template>
  <h1 class="title-face">{{ title }}</h1>
  <p v-if="view && !hasHost">
    {{ say('hostBench.nothingCanBePublishedBefore', { isOwner: session.isOwner }) }}
  </p>
  <p v-else class="quiet">
    {{
      say('hostBench.itsKeyIsPinned', {
        words: account && speak(account.words),
        hasPinnedKey: Boolean(account?.pinnedKey),
        pinnedKey: account?.pinnedKey,
      })
    }}
  </p>
  <template v-if="account?.kind === 'stand-in' && standIn">
    <v-btn
      v-if="session.isOwner && plan && region && !isKept"
      class="gap"
      variant="flat"
      color="primary"
      :disabled="busy"
      @click="choose"
      >{{ say('hostBench.takeForMonths', { name: chosen?.plan.name, months }) }}</v-btn
    >
    <p v-if="session.isOwner && !plan">
      {{ say('hostBench.chooseAPlanAndA') }}
    </p>
    <p v-if="chosen && !chosen.fits" class="wrong">
      {{ say('hostBench.itIsTooSmallFor', { lacks: chosen.lacks.map(speak).join('; ') }) }}
    </p>
    <hr class="rule" />
    <h2 class="heading">{{ say('hostBench.temporaryAddress') }}</h2>
    <p class="quiet">
      {{ say('hostBench.worksAtOnceWithoutA') }}
      <a class="address text-link" :href="standIn.url" target="_blank" rel="noopener">{{ standIn.url }}</a>
    </p>
    <form v-if="session.mayEdit" class="pair" @submit.prevent="rename">
      <LabelledField v-model="label" :label="say('hostBench.itsName')" />
      <v-btn type="submit" height="36" :disabled="busy || label.trim() === standIn.label || label.trim() === ''">{{
        say('hostBench.changeIt')
      }}</v-btn>
    </form>
  </template>
  <p v-if="account && account.kind !== 'stand-in'" class="note">
    {{ say('hostBench.thisPlaceKeepsFilesNothing') }}
  </p>
  <!-- Only here, where there is a host already: first things first. -->
  <BasePath v-if="mayMove && hasHost" />
  <template v-if="session.isOwner">
    <hr class="rule" />
    <h2 class="heading">{{ say('hostBench.whereItIsPublished') }}</h2>
    <SegmentedChoice v-model="place" :label="say('hostBench.whereItIsPublished')" :options="places" />
    <component :is="HOST_FORMS[place].form" v-if="place !== 'stand-in'" />
    <v-btn v-else-if="account?.kind !== 'stand-in'" class="gap" :disabled="busy" @click="useStandIn">{{
      say('hostBench.publishToTheStandIn')
    }}</v-btn>
  </template>
  <BasePath v-if="mayMove && !hasHost" />
</template>

<style scoped>
p {
  margin: 4px 0;
}
.gap {
  margin-top: 10px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: end;
  margin-top: 6px;
}
</style>
