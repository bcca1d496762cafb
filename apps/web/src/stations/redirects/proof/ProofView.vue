<script setup lang="ts">
/** The proof: every old address followed on the draft, and asked of the live host. */
import { redirectProofApi, type ProofRow, type RedirectProof } from '@fastigium/contracts/api/redirectProof';
import { computed, defineAsyncComponent, ref, shallowRef, watch } from 'vue';
import { call, writePath } from '../../../api/client.ts';
import { callLarge } from '../../../api/large.ts';
import { useShortcuts } from '../../../components/shortcuts.ts';
import JobProgress from '../../../components/JobProgress.vue';
import KeyHint from '../../../components/KeyHint.vue';
import LedgerColumns from '../../../components/LedgerColumns.vue';
import LedgerHead from '../../../components/LedgerHead.vue';
import LedgerList from '../../../components/LedgerList.vue';
import SegmentedChoice from '../../../components/SegmentedChoice.vue';
import StationLayout from '../../../components/StationLayout.vue';
import { formatFigure, formatWhen } from '../../../logic/format.ts';
import { useNotices } from '../../../stores/notices.ts';
import { useReadAgain } from '../../../stores/readAgain.ts';
import { useSession } from '../../../stores/session.ts';
import { useSite } from '../../../stores/site.ts';
import { useWorld } from '../../../stores/world.ts';
import { reckonProvedCoverage } from '../coverage.ts';
import CoverageBar from '../CoverageBar.vue';
import { formatShownAddress } from '../../shared/settling/shownAddress.ts';
import { BAD_ENDS, END_WORDS, groupFlows, findWay, type Asked } from './flows.ts';
import FlowFigures from './FlowFigures.vue';
import ProofHops from './ProofHops.vue';
import { speak } from '../../../words/index.ts';
import { runInBackground } from '../../../stores/background.ts';
import { say } from '../words.ts';

const ProofChart = defineAsyncComponent(() => import('./ProofChart.vue'));
const GRID = 'minmax(0, 5fr) 64px minmax(0, 5fr) minmax(0, 2fr)';
const emit = defineEmits<{ leave: []; settle: [from: string] }>();
type View = 'all' | 'otherwise' | 'lost' | 'steps';

const world = useWorld();
const site = useSite();
const session = useSession();
const notices = useNotices();
const proof = shallowRef<RedirectProof>();
const asked = ref<Asked>('draft');
const view = ref<View>('all');
const search = ref('');
const selected = ref<string>();
const benchOpen = ref(false);
const inFigures = ref(false);

useReadAgain(
  async (id) => {
    const isFirst = proof.value === undefined;
    const before = proof.value?.live?.at;
    proof.value = await callLarge('redirectProof', 'get', { site: id }, 'rows');
    if (proof.value.live && (isFirst || proof.value.live.at !== before)) asked.value = 'live';
  },
  ['draft', 'redirects'],
);

const rows = computed(() => proof.value?.rows ?? []);
const live = computed(() => proof.value?.live ?? null);
const job = computed(() => [...site.jobs.values()].find(({ kind }) => kind === 'prove'));
const steps = (row: ProofRow) =>
  (findWay(row, asked.value)?.hops ?? []).filter(({ status }) => status >= 300 && status < 400).length;
const HOLDS: Readonly<Record<View, (row: ProofRow) => boolean>> = {
  all: () => true,
  otherwise: ({ live: way }) => way?.problem != null,
  lost: (row) => BAD_ENDS.has(findWay(row, asked.value)?.end ?? 'unasked'),
  steps: (row) => steps(row) > 1,
};
const counts = computed(() => ({
  otherwise: rows.value.filter(HOLDS.otherwise).length,
  lost: rows.value.filter(HOLDS.lost).length,
  steps: rows.value.filter(HOLDS.steps).length,
}));
const shown = computed(() => {
  const wanted = search.value.toLowerCase();
  return rows.value.filter(
    (row) =>
      HOLDS[view.value](row) &&
      (wanted === '' ||
        `${row.from} ${row.title ?? ''} ${findWay(row, asked.value)?.final ?? ''}`.toLowerCase().includes(wanted)),
  );
});
const sayProblem = (row: ProofRow) => {
  const problem = problemOf(row);
  return problem ? speak(problem) : undefined;
};
const problemOf = (row: ProofRow) => (asked.value === 'live' ? row.live?.problem : undefined);
/** An address that leads nowhere has no end of its own. */
function endOf(row: ProofRow): string {
  const way = findWay(row, asked.value);
  return way === null || way.final === null || (way.final === row.from && way.end === 'missing')
    ? END_WORDS[way?.end ?? 'unasked']
    : way.final;
}
const row = computed(() => rows.value.find(({ from }) => from === selected.value));
watch(
  shown,
  (now) => {
    if (!now.some(({ from }) => from === selected.value)) selected.value = now[0]?.from;
  },
  { immediate: true },
);
const flows = computed(() => groupFlows(rows.value, asked.value));
const sums = computed(() => reckonProvedCoverage(rows.value, asked.value));
const byVisits = computed(() => sums.value.hasVisits);
const report = computed(() =>
  site.id === undefined
    ? { table: '', page: '' }
    : {
        table: writePath(redirectProofApi.table, { site: site.id }),
        page: writePath(redirectProofApi.report, { site: site.id }),
      },
);

async function ask(): Promise<void> {
  if (site.id === undefined || !session.mayEdit || job.value || !proof.value?.isLive) return;
  try {
    await call(redirectProofApi.ask, { params: { site: site.id } });
  } catch (error) {
    notices.problem(error);
  }
}

useShortcuts(() => [
  { key: 'v', run: () => runInBackground(ask()) },
  { key: 'Escape', run: () => emit('leave') },
]);
</script>

<template>
  <StationLayout
    v-model:bench-open="benchOpen"
    :bench-of="selected"
    :bench-label="say('proofView.theSelectedOldAddress')"
  >
    <template #ledger>
      <div class="summary">
        <div class="line">
          <h1 class="title-face">{{ say('proofView.proof') }}</h1>
          <SegmentedChoice
            v-if="live"
            v-model="asked"
            :label="say('proofView.whatWasAsked')"
            :options="[
              { value: 'draft', label: say('proofView.draft') },
              { value: 'live', label: say('proofView.liveHostRelease', { release: live.release }) },
            ]"
          />
          <span class="gap" />
          <button type="button" class="text-link" @click="emit('leave')">{{ say('proofView.backToSettling') }}</button>
        </div>
      </div>
      <CoverageBar :sums="sums" />
      <div v-if="flows.length > 0" class="drawing">
        <p class="quiet">
          <template v-if="asked === 'live' && live"
            >{{ say('proofView.askedBy', { at: formatWhen(live.at, world.now), name: live.by.name })
            }}<template v-if="!live.isCurrent">{{ say('proofView.anotherReleaseHasGoneLive') }}</template
            >. </template
          ><button type="button" class="text-link" :aria-expanded="inFigures" @click="inFigures = !inFigures">
            {{ inFigures ? say('proofView.asADrawing') : say('proofView.inFigures') }}
          </button>
        </p>
        <ProofChart v-if="!inFigures" :flows="flows" :by-visits="byVisits" />
        <FlowFigures v-else :flows="flows" />
      </div>
      <LedgerHead v-model="search" :search-label="say('proofView.searchTheProof')">
        <SegmentedChoice
          v-model="view"
          :label="say('proofView.whichAddresses')"
          :options="[
            { value: 'all', label: say('proofView.all', { rows: rows.length }) },
            ...(live && asked === 'live'
              ? [
                  {
                    value: 'otherwise' as const,
                    label: say('proofView.otherwiseThanPublished', { otherwise: counts.otherwise }),
                  },
                ]
              : []),
            { value: 'lost', label: say('proofView.lost', { lost: counts.lost }) },
            { value: 'steps', label: say('proofView.severalSteps', { steps: counts.steps }) },
          ]"
        />
      </LedgerHead>
      <LedgerColumns
        :grid="GRID"
        :columns="[
          { label: say('common.oldAddress') },
          { label: say('common.visits'), figure: true },
          { label: say('proofView.endsAt') },
          { label: say('proofView.answers') },
        ]"
      />
      <LedgerList
        v-model="selected"
        :items="shown"
        :key-of="(each) => each.from"
        :row-height="44"
        :label="say('proofView.proofOfOldAddresses')"
        @pick="benchOpen = true"
        @enter="({ from }) => emit('settle', from)"
      >
        <template #default="{ item }">
          <div class="cells" :style="{ gridTemplateColumns: GRID }">
            <span class="address one-line" :title="item.from">{{ formatShownAddress(item.from) }}</span>
            <span class="figure">{{ item.visits === null ? '' : formatFigure(item.visits) }}</span>
            <span class="end">
              <span class="address one-line" :class="{ wrong: HOLDS.lost(item) }">{{ endOf(item) }}</span>
              <span class="one-line" :class="problemOf(item) ? 'wrong' : 'quiet'">{{
                sayProblem(item) ??
                (HOLDS.lost(item)
                  ? say('proofView.visitorsFindAnError')
                  : (item.title ?? END_WORDS[findWay(item, asked)?.end ?? 'unasked']))
              }}</span>
            </span>
            <span class="address one-line quiet">{{
              (findWay(item, asked)?.hops ?? []).map(({ status }) => status).join(' → ')
            }}</span>
          </div>
        </template>
        <template #empty
          ><p v-if="proof" class="empty">
            {{ rows.length === 0 ? say('proofView.noOldAddressIsKnown') : say('common.noneIsLikeThis') }}
          </p></template
        >
      </LedgerList>
    </template>
    <template #bench>
      <h2 class="title-face">{{ say('proofView.fromOutside') }}</h2>
      <p class="quiet">
        {{ say('proofView.everyOldAddressIsAsked') }}
      </p>
      <JobProgress
        v-if="job"
        :job="job"
        :waiting="say('common.waitingToBegin')"
        :can-cancel="session.mayEdit"
        @cancel="site.cancel(job.id)"
      />
      <v-btn v-else-if="session.mayEdit" variant="flat" color="primary" :disabled="proof?.isLive !== true" @click="ask"
        >{{ live ? say('proofView.askTheLiveHostAgain') : say('proofView.askTheLiveHost') }}<KeyHint keys="V"
      /></v-btn>
      <p v-if="proof && !proof.isLive" class="quiet">
        {{ say('proofView.nothingIsLiveYetUntil') }}
      </p>
      <p v-if="live && asked === 'live'" class="standing">
        {{
          counts.otherwise === 0
            ? say('proofView.everyAnswerIsAsIt')
            : say('proofView.addressesAnswerOtherwiseThan', { otherwise: counts.otherwise })
        }}
      </p>
      <p class="keep">
        <a class="text-link" :href="report.page" download>{{ say('proofView.keepItAsAPage') }}</a>{{ ' ' }}
        <a class="text-link" :href="report.table" download>{{ say('proofView.asATable') }}</a>
      </p>
      <template v-if="row">
        <hr class="rule" />
        <p class="quiet">
          {{ say('proofView.oldAddressVisits', { noVisits: row.visits === null, visits: row.visits }) }}
        </p>
        <h2 class="address old">{{ formatShownAddress(row.from) }}</h2>
        <h3 class="heading">
          {{ say('proofView.onTheDraft') }} <span v-if="row.title" class="quiet">{{ row.title }}</span>
        </h3>
        <ProofHops :way="row.draft" />
        <template v-if="row.live">
          <h3 class="heading">{{ say('proofView.onTheLiveHost') }}</h3>
          <ProofHops :way="row.live" />
          <p v-if="row.live.problem" class="wrong" role="alert">{{ speak(row.live.problem) }}</p>
        </template>
        <v-btn @click="emit('settle', row.from)"
          >{{ say('proofView.settleItOtherwise') }}<KeyHint keys="Enter"
        /></v-btn>
      </template>
    </template>
  </StationLayout>
</template>

<style scoped>
p {
  margin: 4px 0 8px;
}
.summary {
  padding: 10px 20px 0;
}
.line {
  display: flex;
  align-items: baseline;
  gap: 14px;
  flex-wrap: wrap;
}
.gap {
  flex: 1;
}
.drawing {
  padding: 2px 20px 6px;
  border-bottom: var(--line);
}
.drawing p {
  margin: 4px 0;
}
.cells {
  display: grid;
  gap: 16px;
  align-items: center;
}
.end {
  display: block;
  min-width: 0;
  line-height: 18px;
}
.end > * {
  display: block;
}
.empty {
  padding: 20px;
  margin: 0;
  color: var(--ink-5);
}
.old {
  font-size: 15px;
  font-weight: 600;
  line-height: 22px;
  margin: 2px 0 8px;
  overflow-wrap: anywhere;
}
.keep {
  display: flex;
  gap: 14px;
  margin-top: 10px;
}
.standing {
  margin-top: 10px;
}
</style>
