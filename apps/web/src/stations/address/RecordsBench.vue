<script setup lang="ts">
/** Records: what to change at the name servers, one by one to copy or all at once as an update; and which name is the main one. */
import { addressApi, type RecordChangeView } from '@fastigium/contracts/api/address';
import { computed, ref } from 'vue';
import { call } from '../../api/client.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSession } from '../../stores/session.ts';
import KeyHint from '../../components/KeyHint.vue';
import { useAddress } from './address.ts';
import MainAddress from './MainAddress.vue';
import UpdateKey from './UpdateKey.vue';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

const { view, standing, zone, busy, act, lookUp } = useAddress();
const session = useSession();
const notices = useNotices();
const settingUp = ref(false);
const changes = computed(() => standing.value?.changes ?? []);
const domain = computed(() => view.value?.domain);
/** Zones that take no updates from here are changed by hand where they are. */
const sendable = computed(() => (domain.value?.updatable.includes(zone.value) ? changes.value : []));
const title = computed(() => {
  const n = changes.value.length;
  if (!domain.value) return say('recordsBench.noDomainYet');
  if (!view.value?.lookedAt) return say('recordsBench.notLookedAtYet');
  if (n === 0)
    return (standing.value?.records.length ?? 0) > 0
      ? say('recordsBench.theRecordsAreRight')
      : say('recordsBench.nothingIsKnownOfThe');
  return say('recordsBench.nextPutRecordsRight', { n });
});

async function copy(text: string): Promise<void> {
  await navigator.clipboard
    .writeText(text)
    .then(() => notices.done(say('recordsBench.copied', { text })), notices.problem);
}

function send(): Promise<boolean> {
  const agreed = sendable.value.map(({ zone, kind, name, type, from, to, ttlSeconds }: RecordChangeView) => ({
    zone,
    kind,
    name,
    type,
    from,
    to,
    ttlSeconds,
  }));
  return act(
    (site) => call(addressApi.sendUpdate, { params: { site }, body: { changes: agreed } }),
    say('recordsBench.changesSentTheNameServers', { agreed: agreed.length }),
  );
}
</script>

<template>
  <h1 class="title-face">{{ title }}</h1>
  <p v-if="changes.length > 0" class="quiet">
    {{ say('recordsBench.inTheDnsPanelOf', { zone, hasUpdatable: domain?.updatable.includes(zone) }) }}
  </p>
  <p v-else-if="domain && standing && standing.records.length === 0" class="quiet">
    {{ say('recordsBench.firstTheNameServersHave') }}
  </p>
  <p v-else-if="domain" class="quiet">{{ say('recordsBench.nothingNeedsRepublishingTheSite') }}</p>
  <ol v-if="changes.length > 0" class="steps">
    <li v-for="(change, index) in changes" :key="`${change.name} ${change.type}`">
      <b>{{ index + 1 }}. {{ speak(change.words) }}</b>
      <span v-if="change.from.length > 0 && change.kind !== 'add'" class="address from"
        >{{ change.from.join(', ') }}<template v-if="change.to.length > 0"> →</template></span
      >
      <span v-for="value in change.to" :key="value" class="address"
        >{{ value }}
        <button class="text-link" type="button" @click="copy(value)">{{ say('recordsBench.copy') }}</button></span
      >
    </li>
  </ol>
  <p v-if="standing?.mail" :class="standing.mail.endangered ? 'wrong' : 'quiet'" class="mail">
    {{ standing.mail.messages.map(speak).join(' ') }}
  </p>
  <div v-if="domain && session.mayEdit" class="buttons">
    <v-btn variant="flat" color="primary" :loading="busy" @click="lookUp"
      >{{ say('recordsBench.lookAgain') }}<KeyHint keys="A"
    /></v-btn>
    <v-btn v-if="sendable.length > 0" :disabled="busy || standing?.mail?.endangered === true" @click="send">{{
      say('recordsBench.sendAsDnsUpdate')
    }}</v-btn>
    <button
      v-else-if="changes.length > 0 && zone === domain.zone && session.person?.role === 'owner'"
      class="text-link"
      type="button"
      @click="settingUp = !settingUp"
    >
      {{ say('recordsBench.setUpDnsUpdates') }}
    </button>
  </div>
  <p v-if="domain?.updates && sendable.length > 0" class="quiet">
    {{ say('recordsBench.signedWithTheKeyTo', { keyName: domain.updates.keyName, server: domain.updates.server }) }}
  </p>
  <UpdateKey v-if="settingUp" @done="settingUp = false" />
  <MainAddress v-if="domain" />
</template>

<style scoped>
.steps {
  list-style: none;
  margin: 10px 0;
  padding: 0;
  display: grid;
  gap: 8px;
}
li {
  border: 1px solid var(--stone-2);
  border-radius: 2px;
  padding: 8px 12px;
  display: grid;
  gap: 3px;
}
.from {
  color: var(--madder);
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  margin: 12px 0 6px;
}
.mail {
  margin: 10px 0;
}
p {
  margin: 2px 0;
}
</style>
