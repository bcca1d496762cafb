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
  { days: 1, words: 'one day, to try' },
  { days: 30, words: '30 days' },
  { days: 365, words: 'a year' },
] as const;

const order = () =>
  act(async (id) => {
    await call(addressApi.orderCertificate, { params: { site: id }, body: { zone: zone.value } });
    notices.done('Ordering a certificate. It takes a few seconds.');
  });
const set = (body: { forceHttps?: boolean; hstsSeconds?: number | null }, done: string) =>
  act((id) => call(addressApi.settings, { params: { site: id }, body }), done);
</script>

<template>
  <h1 class="title-face">{{ isServed ? 'https is served' : 'Certificate' }}</h1>
  <p class="quiet">{{ certificate?.words }}</p>
  <JobProgress
    v-if="site.certifying && certificate?.state === 'ordering'"
    class="job"
    :job="site.certifying"
    waiting="Waiting to begin"
    :can-cancel="session.mayEdit"
    @cancel="site.cancel(site.certifying.id)"
  />
  <template v-else-if="domain && view?.hostNaming">
    <p v-if="!isServed && !recordsRight">
      It is ordered by itself as soon as the records are right: the authority asks the name servers and fetches a proof
      from the host, which is tried first.
    </p>
    <v-btn
      v-if="session.mayEdit"
      :variant="isServed ? 'outlined' : 'flat'"
      :color="isServed ? undefined : 'primary'"
      :disabled="busy || !recordsRight"
      @click="order"
      >{{ isServed ? 'Order a new one now' : 'Order it now' }}</v-btn
    >
  </template>
  <p v-else-if="domain">
    This host serves its own certificate. Set it up there; what it serves is read from the wire all the same.
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
            domain.forceHttps ? 'http is answered by itself again.' : 'http goes to https.',
          )
        "
      />{{ ' ' }}
      <span
        ><b>http goes to https</b><br /><span class="quiet"
          >Visitors who type the name without https are sent on, 308.</span
        ></span
      ></label
    >
    <hr class="rule" />
    <h2 class="heading">HSTS</h2>
    <template v-if="domain.hstsSeconds === null">
      <p class="quiet">
        Browsers then refuse plain http for this name, for as long as you say, and nobody can take that back before.
        Begin with a day (RFC 6797).
      </p>
      <label class="line"
        ><input v-model="understood" type="checkbox" :disabled="!session.mayEdit" /> https will be served here for as
        long as it says</label
      >
      <div class="buttons">
        <v-btn
          v-for="each in HSTS"
          :key="each.days"
          :disabled="!understood || busy || !session.mayEdit"
          @click="set({ hstsSeconds: each.days * 86400 }, `HSTS is sent for ${each.words}.`)"
          >{{ each.words }}</v-btn
        >
      </div>
    </template>
    <p v-else>
      Sent, for {{ Math.round(domain.hstsSeconds / 86400) }} days.
      <button
        v-if="session.mayEdit"
        class="text-link"
        type="button"
        @click="
          set({ hstsSeconds: null }, 'HSTS is no longer sent; browsers that have seen it keep to it until it runs out.')
        "
      >
        Send it no more
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
