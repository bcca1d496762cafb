<script setup lang="ts">
/** The draft on a temporary address of its own, before anybody else sees it. */
import { rehearsalApi, type Rehearsal } from '@fastigium/contracts/api/rehearsal';
import { computed, ref, shallowRef } from 'vue';
import { call } from '../../api/client.ts';
import JobProgress from '../../components/JobProgress.vue';
import KeystoneMark from '../../components/KeystoneMark.vue';
import { formatWhen } from '../../logic/format.ts';
import { useNotices } from '../../stores/notices.ts';
import { useReadAgain } from '../../stores/readAgain.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { useWorld } from '../../stores/world.ts';
import { markOf, sayVerdict } from './inspectionWords.ts';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

const site = useSite();
const session = useSession();
const notices = useNotices();
const world = useWorld();
const last = shallowRef<Rehearsal | null>(null);
const isPossible = ref(false);
const SHOWN = 6;
useReadAgain(async (id) => {
  ({ rehearsal: last.value, isPossible: isPossible.value } = await call(rehearsalApi.get, { params: { site: id } }));
});
const running = computed(() => site.rehearsing);

async function begin(): Promise<void> {
  if (site.id === undefined) return;
  try {
    await call(rehearsalApi.begin, { params: { site: site.id } });
    await site.refresh();
  } catch (error) {
    notices.problem(error);
  }
}
</script>

<template>
  <section v-if="isPossible && (session.mayEdit || last)" :aria-label="say('rehearsalPanel.rehearsal')">
    <hr class="rule" />
    <h2 class="heading">{{ say('rehearsalPanel.rehearsal') }}</h2>
    <JobProgress
      v-if="running"
      :job="running"
      :waiting="say('common.waitingToBegin')"
      :can-cancel="session.mayEdit"
      @cancel="site.cancel(running.id)"
    />
    <template v-else>
      <p v-if="last" class="verdict">
        <KeystoneMark :mark="markOf(last.verdict)" /><span
          ><a class="address" :href="last.origin" target="_blank" rel="noopener">{{ last.origin }}</a
          ><span class="quiet">{{
            say('rehearsalPanel.asTheDraftIsNow', {
              last: sayVerdict(last),
              at: formatWhen(last.at, world.now),
              hasSince: last.since > 0,
              since: last.since,
            })
          }}</span></span
        >
      </p>
      <ul v-if="last && last.findings.length > 0">
        <li v-for="finding in last.findings.slice(0, SHOWN)" :key="`${finding.address} ${speak(finding.message)}`">
          <KeystoneMark :mark="finding.weight === 'wrong' ? 'madder' : 'ochre'" /><span
            ><span class="address">{{ finding.address }}</span> {{ speak(finding.message) }}</span
          >
        </li>
        <li v-if="last.findings.length > SHOWN" class="quiet">
          {{ say('rehearsalPanel.andMore', { findings: last.findings.length - SHOWN }) }}
        </li>
      </ul>
      <p v-if="session.mayEdit">
        <button class="text-link" type="button" @click="begin">
          {{
            last ? say('rehearsalPanel.rehearseAgain') : say('rehearsalPanel.rehearseOnATemporaryAddress')
          }}</button>{{ ' ' }}
        <span v-if="!last" class="quiet">{{ say('rehearsalPanel.wholeAskedFromOutsideVisitors') }}</span>
      </p>
    </template>
  </section>
</template>

<style scoped>
p {
  margin: 2px 0 8px;
}
.verdict {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
.verdict > span {
  display: grid;
}
a.address {
  color: var(--lapis);
}
ul {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
  font-size: 13px;
}
li {
  display: flex;
  gap: 10px;
  align-items: baseline;
  padding: 4px 0;
}
.text-link {
  min-height: 24px;
}
</style>
