<script setup lang="ts">
/** Whether the live host gives what the release says, and the way to put it right. */
import { watchApi, type Drift } from '@fastigium/contracts/api/watch';
import { ref } from 'vue';
import { call } from '../../api/client.ts';
import KeystoneMark from '../../components/KeystoneMark.vue';
import { formatWhen } from '../../logic/format.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

defineProps<{ drift: Drift | null; now: Date }>();
const site = useSite();
const session = useSession();
const notices = useNotices();
const isAsking = ref(false);

async function run(work: (id: string) => Promise<void>): Promise<void> {
  if (site.id === undefined) return;
  isAsking.value = true;
  try {
    await work(site.id);
  } catch (error) {
    notices.problem(error);
  } finally {
    isAsking.value = false;
  }
}
const checkDrift = () =>
  run(async (id) => {
    const { findings } = await call(watchApi.checkDrift, { params: { site: id } });
    notices.done(
      findings === 0
        ? say('driftPart.theLiveHostGivesWhat')
        : say('driftPart.addressesOtherwiseThanPublished', { findings }),
    );
  });
const putRight = () =>
  run(async (id) => {
    await call(watchApi.putRight, { params: { site: id } });
    await site.refresh();
  });
</script>

<template>
  <h2 class="heading">{{ say('driftPart.againstTheRelease') }}</h2>
  <p class="verdict">
    <KeystoneMark :mark="drift === null ? 'dashed' : drift.since ? 'madder' : 'verdigris'" />
    <b>{{
      drift === null
        ? say('driftPart.notHeldAgainstItYet')
        : drift.since
          ? say('driftPart.givesSomethingElseSince', { since: formatWhen(drift.since, now) })
          : say('driftPart.givesWhatWasPublished')
    }}</b>
    <span class="quiet"
      >{{
        drift
          ? say('driftPart.addressesAskedOthersEveryHour', {
              asked: drift.asked,
              checkedAt: formatWhen(drift.checkedAt, now),
            })
          : ''
      }}<button v-if="session.mayEdit" class="text-link" type="button" :disabled="isAsking" @click="checkDrift">
        {{ say('driftPart.askNow') }}
      </button></span
    >
  </p>
  <template v-if="drift && drift.findings.length > 0">
    <ul>
      <li v-for="finding in drift.findings" :key="`${finding.address} ${speak(finding.message)}`">
        <KeystoneMark mark="madder" /><span class="address">{{ finding.address }}</span
        ><span>{{ speak(finding.message) }}</span>
      </li>
    </ul>
    <p v-if="session.mayEdit" class="right">
      <v-btn
        variant="flat"
        color="primary"
        height="36"
        :loading="isAsking || site.publishing !== undefined"
        @click="putRight"
        >{{ say('driftPart.putItRight') }}</v-btn><span class="quiet">{{
        say('driftPart.theLiveReleaseGoesOut')
      }}</span>
    </p>
  </template>
</template>

<style scoped>
.verdict {
  display: flex;
  gap: 8px;
  align-items: center;
  flex-wrap: wrap;
  margin: 0 0 10px;
}
.verdict .quiet {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
ul {
  list-style: none;
  margin: 0 0 10px;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: auto minmax(60px, auto) 1fr;
  gap: 10px;
  padding: 6px 0;
  border-bottom: var(--line);
  align-items: baseline;
}
.right {
  display: flex;
  gap: 12px;
  align-items: center;
  margin: 0 0 14px;
}
</style>
