<script setup lang="ts">
/** The audit trail: who did what, when, from where, and how it ended. */
import { trailApi, type TrailEntry } from '@fastigium/contracts/api/trail';
import { TRAIL_KINDS, type TrailKind } from '@fastigium/contracts/endpoint';
import { computed, onMounted, ref, watch } from 'vue';
import { call, writePath } from '../api/client.ts';
import SegmentedChoice from '../components/SegmentedChoice.vue';
import { useNotices } from '../stores/notices.ts';
import TwoSides from './TwoSides.vue';
import '../words/ofSites.ts';
import { findFirstClause, speak } from '../words/index.ts';
import { say } from './words.ts';

const notices = useNotices();
const kind = ref<TrailKind | 'all'>('all');
const entries = ref<TrailEntry[]>([]);
const more = ref(false);
const query = computed(() => (kind.value === 'all' ? {} : { kind: kind.value }));
const KIND_NAMES: Readonly<Record<TrailKind, string>> = {
  'sign-in': say('trailPage.signIn'),
  account: say('trailPage.account'),
  people: say('trailPage.people'),
  sites: say('trailPage.sites'),
  hosts: say('trailPage.hosts'),
  releases: say('trailPage.releases'),
  secrets: say('trailPage.secrets'),
};
const OPTIONS = [
  { value: 'all' as const, label: say('trailPage.everything') },
  ...TRAIL_KINDS.map((each) => ({ value: each, label: KIND_NAMES[each] })),
];
const at = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  year: 'numeric',
  hour: '2-digit',
  minute: '2-digit',
  second: '2-digit',
});

async function read(before?: number): Promise<void> {
  try {
    const found = await call(trailApi.list, { query: { ...query.value, ...(before === undefined ? {} : { before }) } });
    entries.value = before === undefined ? found.entries : [...entries.value, ...found.entries];
    more.value = found.more;
  } catch (error) {
    notices.problem(error);
  }
}
onMounted(read);
watch(kind, () => read());

/** Nothing for what went as it should. */
function sayOutcome({ outcome }: TrailEntry): string {
  if (outcome === 'done') return '';
  if (outcome === null) return say('trailPage.begunHowItEndedIs');
  return say('trailPage.refused', { value: findFirstClause(`error.${outcome}`)?.toLowerCase() ?? outcome });
}
</script>

<template>
  <TwoSides>
    <h1 class="title-face">{{ say('trailPage.auditTrail') }}</h1>
    <div class="row bar">
      <SegmentedChoice v-model="kind" :label="say('trailPage.which')" :options="OPTIONS" />
      <a class="text-link" :href="writePath(trailApi.table, {}, query)" download>{{
        say('trailPage.takeItAlongAsA')
      }}</a>
    </div>
    <div v-for="entry in entries" :key="entry.number" class="row entry">
      <span class="figure quiet">{{ at.format(new Date(entry.at)) }}</span>
      <span class="two"
        ><span class="strong one-line">{{ entry.who || say('trailPage.whoeverRunsTheServer') }}</span
        ><span class="address quiet one-line">{{ entry.address || say('trailPage.commandLine') }}</span></span
      >
      <span class="two"
        ><span
          >{{ speak(entry.what) }}<template v-if="entry.about">: {{ speak(entry.about) }}</template></span
        ><span v-if="entry.site || sayOutcome(entry)" class="quiet"
          >{{ entry.site
          }}<template v-if="sayOutcome(entry)"
            >{{ entry.site ? ', ' : '' }}<span class="wrong">{{ sayOutcome(entry) }}</span></template
          ></span
        ></span
      >
    </div>
    <p v-if="entries.length === 0" class="quiet">{{ say('trailPage.nothingOfThisKindHas') }}</p>
    <div v-if="more" class="row">
      <button class="text-link" type="button" @click="read(entries.at(-1)?.number)">
        {{ say('trailPage.showOlderOnes') }}
      </button>
    </div>
  </TwoSides>
</template>

<style scoped>
.row {
  padding: 9px 28px;
  border-top: var(--line);
}
.bar {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
  gap: 14px;
}
.entry {
  display: grid;
  grid-template-columns: 160px minmax(0, 3fr) minmax(0, 7fr);
  gap: 18px;
  align-items: baseline;
}
.figure {
  text-align: left;
}
.two {
  display: grid;
  min-width: 0;
}
@media (max-width: 799px) {
  .entry {
    grid-template-columns: 1fr;
    gap: 4px;
  }
}
</style>
