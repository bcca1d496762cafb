<script setup lang="ts">
/** Certificate: ordering one now, https for everybody, and HSTS with what it commits to. */
import { addressApi } from '@fastigium/contracts/api/address';
import { computed, ref } from 'vue';
import { call } from '../../api/client.ts';
import JobProgress from '../../components/JobProgress.vue';
import { useNotices } from '../../stores/notices.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { useAddress } from './address.ts';
import { say } from './words.ts';
import { speak } from '../../words/index.ts';

const { view, standing, zone, busy, act } = useAddress();
const site = useSite();
const session = useSession();
const notices = useNotices();
const domain = computed(() => view.value?.domain);
const certificate = computed(() => standing.value?.certificate);
/** What visitors of the site get; a domain that redirects has nothing of its own to say here. */
const isMain = computed(() => zone.value === domain.value?.zone);
const isServed = computed(() => certificate.value?.state === 'served');
const recordsRight = computed(
  () => domain.value != null && standing.value?.changes.length === 0 && standing.value.records.length > 0,
);
const understood = ref(false);
const HSTS = [
  { days: 1, words: say('certificateBench.oneDayToTry') },
  { days: 30, words: say('certificateBench.n30Days') },
  { days: 365, words: say('certificateBench.aYear') },
] as const;

const order = () =>
  act(async (id) => {
    await call(addressApi.orderCertificate, { params: { site: id }, body: { zone: zone.value } });
    notices.done(say('certificateBench.orderingACertificateItTakes'));
  });
const set = (body: { forceHttps?: boolean; hstsSeconds?: number | null }, done: string) =>
  act((id) => call(addressApi.settings, { params: { site: id }, body }), done);
</script>

<template>
  <h1 class="title-face">{{ isServed ? say('certificateBench.httpsIsServed') : say('common.certificate') }}</h1>
  <p class="quiet">{{ certificate && speak(certificate.words) }}</p>
  <JobProgress
    v-if="site.certifying && certificate?.state === 'ordering'"
    class="job"
    :job="site.certifying"
    :waiting="say('common.waitingToBegin')"
    :can-cancel="session.mayEdit"
    @cancel="site.cancel(site.certifying.id)"
  />
  <template v-else-if="domain && view?.hostNaming">
    <p v-if="!isServed && !recordsRight">
      {{ say('certificateBench.itIsOrderedByItself') }}
    </p>
    <v-btn
      v-if="session.mayEdit"
      :variant="isServed ? 'outlined' : 'flat'"
      :color="isServed ? undefined : 'primary'"
      :disabled="busy || !recordsRight"
      @click="order"
      >{{ isServed ? say('certificateBench.orderANewOneNow') : say('certificateBench.orderItNow') }}</v-btn
    >
  </template>
  <p v-else-if="domain">
    {{ say('certificateBench.thisHostServesItsOwn') }}
  </p>
  <template v-if="domain && isMain && isServed && view?.hostNaming">
    <hr class="rule" />
    <label class="line"
      ><input
        type="checkbox"
        :checked="domain.forceHttps"
        :disabled="busy || !session.mayEdit"
        @change="
          set(
            { forceHttps: !domain.forceHttps },
            domain.forceHttps
              ? say('certificateBench.httpIsAnsweredByItself')
              : say('certificateBench.httpGoesToHttps'),
          )
        "
      />{{ ' ' }}
      <span
        ><b>{{ say('certificateBench.httpGoesToHttps2') }}</b
        ><br /><span class="quiet">{{ say('certificateBench.visitorsWhoTypeTheName') }}</span></span
      ></label
    >
    <hr class="rule" />
    <h2 class="heading">{{ say('certificateBench.hsts') }}</h2>
    <template v-if="domain.hstsSeconds === null">
      <p class="quiet">
        {{ say('certificateBench.browsersThenRefusePlainHttp') }}
      </p>
      <label class="line"
        ><input v-model="understood" type="checkbox" :disabled="!session.mayEdit" />
        {{ say('certificateBench.httpsWillBeServedHere') }}</label
      >
      <div class="buttons">
        <v-btn
          v-for="each in HSTS"
          :key="each.days"
          :disabled="!understood || busy || !session.mayEdit"
          @click="set({ hstsSeconds: each.days * 86400 }, say('certificateBench.hstsIsSentFor', { time: each.words }))"
          >{{ each.words }}</v-btn
        >
      </div>
    </template>
    <p v-else>
      {{ say('certificateBench.sentForDays', { days: Math.round(domain.hstsSeconds / 86400) }) }}
      <button
        v-if="session.mayEdit"
        class="text-link"
        type="button"
        @click="set({ hstsSeconds: null }, say('certificateBench.hstsIsNoLongerSent'))"
      >
        {{ say('certificateBench.sendItNoMore') }}
      </button>
    </p>
  </template>
</template>

<style scoped>
p {
  margin: 4px 0 10px;
}
.job {
  margin: 10px 0;
}
.line {
  display: flex;
  gap: 10px;
  align-items: flex-start;
  cursor: pointer;
}
.line input {
  margin-top: 4px;
  accent-color: var(--lapis);
}
.buttons {
  display: flex;
  gap: 8px;
  margin-top: 8px;
  flex-wrap: wrap;
}
</style>
