<script lang="ts">
/** What a row shows from now on. */
export type RowChange = Pick<RedirectRow, 'from'> & Partial<RedirectRow>;
</script>

<script setup lang="ts">
/** One old address beside the pages it could land on, and the proof on the draft. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { redirectsApi, type OldAddress, type RedirectRow } from '@fastigium/contracts/api/redirects';
import { useDebounceFn } from '@vueuse/core';
import { computed, nextTick, ref, shallowRef, watch } from 'vue';
import { call } from '../../../api/client.ts';
import KeyHint from '../../../components/KeyHint.vue';
import LabelledField from '../../../components/LabelledField.vue';
import SegmentedChoice from '../../../components/SegmentedChoice.vue';
import { useNotices } from '../../../stores/notices.ts';
import { useSession } from '../../../stores/session.ts';
import { useSite } from '../../../stores/site.ts';
import DraftProof from '../DraftProof.vue';
import PagePicker from '../PagePicker.vue';
import type { LeadingTarget, PickedTarget } from '../pickedTarget.ts';
import CandidateCard from './CandidateCard.vue';
import { NOISE_WORDS } from './noise.ts';
import OldPageCard from './OldPageCard.vue';
import RuleOptions from './RuleOptions.vue';
import { formatShownAddress } from './shownAddress.ts';
import { readTarget, STATUS_OPTIONS, findSuggestedTarget, type ChosenStatus } from './target.ts';
import { runInBackground } from '../../../stores/background.ts';
import { say } from '../words.ts';
import { speak } from '../../../words/index.ts';
import RichWords from '../../../words/RichWords.ts';

const props = defineProps<{
  row: RedirectRow | undefined;
  pages: readonly PageRow[];
  /** "3 of 108" among what is shown. */ place: string;
  /** Grows when suggestions were reckoned anew. */ tick: number;
}>();
const emit = defineEmits<{ settling: [from: string]; settled: [change?: RowChange]; back: [] }>();
const site = useSite();
const session = useSession();
const notices = useNotices();
const from = ref(props.row?.from ?? '');
const status = ref<ChosenStatus>(props.row?.status ?? 301);
const old = shallowRef<OldAddress>();
const chosen = ref(0);
/** Written by a person rather than taken from the candidates. */
const written = ref<PickedTarget | undefined>(readTarget(props.row));
const isWriting = ref(props.row === undefined || props.row.origin !== 'open');
const fromField = ref<{ focus(): void }>();
const picker = ref<InstanceType<typeof PagePicker>>();
const busy = ref(false);
const options = ref({
  dropsQuery: props.row?.dropsQuery ?? false,
  ignoreCase: props.row?.ignoreCase ?? false,
  anySlash: props.row?.anySlash ?? false,
});
const note = ref(props.row?.note ?? '');
const until = ref(props.row?.until ?? '');
const home = computed(() => props.pages.find(({ isHome }) => isHome));
const candidates = computed(() => (props.row?.origin === 'open' ? (old.value?.suggestions ?? []) : []));
const target = computed<LeadingTarget | undefined>(() =>
  isWriting.value
    ? written.value?.kind === 'none'
      ? undefined
      : written.value
    : findSuggestedTarget(candidates.value[chosen.value] ?? (old.value ? undefined : props.row?.suggestion)),
);
const isReady = computed(() => from.value.trim() !== '' && (status.value === 410 || target.value !== undefined));
const isRule = computed(
  () => props.row?.origin === 'decided' || (props.row?.problem != null && props.row.origin !== 'moved'),
);

const read = async () => {
  if (props.row === undefined || site.id === undefined) return;
  try {
    old.value = await call(redirectsApi.one, { params: { site: site.id }, query: { from: props.row.from } });
  } catch (error) {
    notices.problem(error);
  }
};
// Whoever runs through the list with the arrow keys does not wait for each one.
const readSoon = useDebounceFn(read, 90);
watch(
  () => props.tick,
  () => runInBackground(readSoon()),
  { immediate: true },
);

async function settle(): Promise<void> {
  if (!isReady.value || busy.value) return;
  busy.value = true;
  if (props.row) emit('settling', props.row.from);
  const done = await site.decide({
    kind: 'redirect',
    from: from.value,
    to:
      status.value === 410
        ? { status: 410 }
        : { status: status.value, target: target.value ?? { kind: 'address', address: '/' } },
    ...options.value,
    ...(note.value.trim() === '' ? {} : { note: note.value.trim() }),
    ...(until.value === '' ? {} : { until: until.value }),
  });
  busy.value = false;
  if (!done) return;
  if (props.row) emit('settled', changeOf(props.row.from));
  else {
    // Ready for the next one, at the keyboard.
    from.value = '';
    written.value = undefined;
    fromField.value?.focus();
  }
}

function changeOf(address: string): RowChange {
  const settledRow = {
    from: address,
    origin: 'decided' as const,
    status: status.value,
    suggestion: null,
    problem: null,
  };
  if (status.value === 410) return { ...settledRow, to: null, toTitle: null, toPage: null, target: null, end: 'gone' };
  const to = target.value;
  const page =
    to?.kind === 'home' ? home.value : to?.kind === 'page' ? props.pages.find(({ id }) => id === to.page) : undefined;
  return {
    ...settledRow,
    to: page?.address ?? (to?.kind === 'address' ? to.address : to?.kind === 'url' ? to.url : null),
    toTitle: page?.title ?? null,
    toPage: page?.id ?? null,
    target: to ?? null,
    end: page?.isHome ? 'home' : 'page',
  };
}

async function settleHome(): Promise<void> {
  if (!home.value) return;
  isWriting.value = true;
  written.value = { kind: 'home' };
  if (status.value === 410) status.value = 301;
  await settle();
}

async function settleGone(): Promise<void> {
  status.value = 410;
  await settle();
}

async function flatten(): Promise<void> {
  if (!props.row) return;
  emit('settling', props.row.from);
  if (await site.decide({ kind: 'chains-flattened', addresses: [props.row.from] }))
    emit('settled', { from: props.row.from, to: props.row.problem?.final ?? null, problem: null });
}

async function takeAway(): Promise<void> {
  if (!props.row) return;
  emit('settling', props.row.from);
  const open = {
    from: props.row.from,
    origin: 'open' as const,
    status: null,
    to: null,
    toTitle: null,
    toPage: null,
    target: null,
    end: 'missing' as const,
    problem: null,
  };
  if (await site.decide({ kind: 'redirect-removed', from: props.row.from })) emit('settled', open);
}

async function putBack({ of, page }: NonNullable<OldAddress['wasPage']>): Promise<void> {
  await site.decide({ kind: 'put-back', things: [{ of, nodes: [page] }], where: 'in-place', taken: 'stop' });
}

async function setApart(noise: boolean): Promise<void> {
  if (!props.row || site.id === undefined) return;
  emit('settling', props.row.from);
  try {
    await call(redirectsApi.kind, { params: { site: site.id }, body: { addresses: [props.row.from], noise } });
    emit('settled', { from: props.row.from, kind: noise ? 'noise' : 'page', noise: null });
  } catch (error) {
    notices.problem(error);
  }
}

function write(): void {
  isWriting.value = true;
  runInBackground(nextTick(() => picker.value?.focus()));
}

function choose(number: number): void {
  if (number > candidates.value.length) return;
  isWriting.value = false;
  chosen.value = number - 1;
}

defineExpose({
  start: () => (props.row ? write() : fromField.value?.focus()),
  settle,
  settleHome,
  settleGone,
  setApart: () => setApart(props.row?.kind !== 'noise'),
  choose,
});
</script>

<template>
  <form @submit.prevent="settle" @keydown.esc="emit('back')">
    <template v-if="row">
      <p class="quiet">
        {{
          say('redirectBench.oldAddressAnsweredByA', {
            place: place === '' ? '' : ` ${place}`,
            isMoved: row.origin === 'moved',
            hasWasPage: Boolean(old?.wasPage),
            isPattern: row.origin === 'pattern',
          })
        }}
      </p>
      <h1 class="address old">{{ formatShownAddress(row.from) }}</h1>
      <div v-if="row.problem" class="problem" role="alert">
        <p>{{ speak(row.problem.message) }}</p>
        <v-btn v-if="row.problem.kind === 'chain' && session.mayEdit" height="28" @click="flatten">{{
          say('redirectBench.leadThereAtOnce')
        }}</v-btn>
        <v-btn
          v-else-if="isRule && session.mayEdit && (row.problem.kind === 'idle' || row.problem.kind === 'over')"
          height="28"
          @click="takeAway"
          >{{ say('redirectBench.takeItAway') }}</v-btn
        >
      </div>
      <OldPageCard v-if="old" :old="old" />
      <p v-if="old?.settledBy" class="quiet">
        {{
          say('redirectBench.settledByOn', {
            name: old.settledBy.name,
            hasSettledAt: Boolean(old.settledAt),
            settledAt:
              old.settledAt && new Date(old.settledAt).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' }),
          })
        }}
      </p>
    </template>
    <template v-else>
      <h1 class="title-face">{{ say('redirectBench.aNewRedirect') }}</h1>
      <p class="quiet">{{ say('redirectBench.writeTheOldAddressAs') }}</p>
      <LabelledField
        ref="fromField"
        v-model="from"
        class="address"
        :label="say('common.oldAddress')"
        placeholder="/old-page.html"
        :readonly="!session.mayEdit"
        maxlength="4000"
      />
    </template>
    <template v-if="row?.kind === 'noise'">
      <hr class="rule" />
      <p>
        {{
          say('redirectBench.setApartByAPerson', {
            hasNoise: Boolean(row.noise),
            noise: row.noise ? NOISE_WORDS[row.noise] : '',
          })
        }}
      </p>
      <v-btn v-if="session.mayEdit" @click="setApart(false)">{{ say('common.takeItBack') }}<KeyHint keys="N" /></v-btn>
    </template>
    <template v-else-if="row?.origin === 'page'">
      <hr class="rule" />
      <p v-if="row.from.startsWith('//')">
        {{ say('redirectBench.withoutARedirectOfIts', { toTitle: row.toTitle ?? row.to }) }}
      </p>
      <p v-else>
        {{ say('redirectBench.thisOldAddressIsA') }}
      </p>
    </template>
    <template v-else-if="session.mayEdit">
      <hr class="rule" />
      <h2 class="heading">
        {{ say('redirectBench.whereItCouldLand') }}
        <span v-if="candidates.length > 0" class="quiet">{{ say('redirectBench.pressTheNumber') }}</span>
      </h2>
      <div v-if="candidates.length > 0" role="radiogroup" :aria-label="say('redirectBench.pagesItCouldLandOn')">
        <CandidateCard
          v-for="(candidate, index) in candidates"
          :key="candidate.address"
          :candidate="candidate"
          :number="index + 1"
          :chosen="!isWriting && chosen === index"
          @choose="choose(index + 1)"
        />
      </div>
      <p v-else-if="row?.origin === 'open' && old" class="quiet none">
        {{ old.none === null ? say('redirectBench.nothingWasComparedWithIt') : say('redirectBench.noPageIsLikeIt') }}
      </p>
      <p v-if="old?.wasPage" class="back">
        {{ say('redirectBench.thisWasAPageThat', { label: old.wasPage.label }) }}
        <button v-if="session.mayEdit" class="text-link" type="button" @click="putBack(old.wasPage)">
          {{ say('redirectBench.putItBack') }}
        </button>
        <RichWords :words="say.parts('redirectBench.orLookAtItIn')"
          ><template #link="{ words }"
            ><RouterLink class="text-link" :to="{ name: 'pages', params: { page: old.wasPage.page } }">{{
              words
            }}</RouterLink></template
          ></RichWords
        >
      </p>
      <p v-else-if="row?.origin === 'open' && old?.isWorthPuttingBack" class="back">
        {{ say('redirectBench.peopleStillAskForIt') }}
      </p>
      <PagePicker
        v-if="isWriting || candidates.length === 0"
        ref="picker"
        v-model="written"
        :pages="pages"
        :disabled="status === 410"
        :offers="['home', 'newest', 'file', 'address', 'url']"
        has-places
        @update:model-value="isWriting = true"
      />
      <div class="actions">
        <v-btn type="submit" variant="flat" color="primary" :disabled="!isReady" :loading="busy"
          >{{ say('redirectBench.settle') }}<KeyHint keys="Enter"
        /></v-btn>
        <v-btn v-if="home" @click="settleHome">{{ say('redirectBench.home') }}<KeyHint keys="H" /></v-btn>
        <v-btn @click="settleGone">{{ say('redirectBench.gone') }}<KeyHint keys="X" /></v-btn>
        <v-btn v-if="!isWriting && candidates.length > 0" @click="write"
          >{{ say('redirectBench.write') }}<KeyHint keys="E"
        /></v-btn>
        <v-btn v-if="isRule" color="error" class="away" @click="takeAway">{{ say('redirectBench.takeAway') }}</v-btn>
      </div>
      <h2 class="heading answer">
        {{ say('redirectBench.answer') }}
        <span class="quiet">{{ STATUS_OPTIONS.find(({ value }) => value === status)?.hint }}</span>
      </h2>
      <SegmentedChoice v-model="status" :label="say('redirectBench.statusOfTheAnswer')" :options="STATUS_OPTIONS" />
      <RuleOptions v-model:options="options" v-model:note="note" v-model:until="until" />
      <p v-if="row?.origin === 'open'" class="apart">
        <button class="text-link" type="button" @click="setApart(true)">
          {{ say('redirectBench.setApartNobodyFollowsA') }}</button>{{ ' ' }}
        <KeyHint keys="N" />
      </p>
    </template>
    <hr class="rule" />
    <h2 class="heading">
      {{ say('redirectBench.proofOnTheDraft') }} <span class="quiet">{{ say('redirectBench.askedJustNow') }}</span>
    </h2>
    <DraftProof :address="from" />
  </form>
</template>

<style scoped>
p {
  margin: 2px 0;
}
.old {
  font-size: 15px;
  font-weight: 600;
  line-height: 22px;
  margin: 2px 0;
}
.none {
  margin-block-end: 8px;
}
.back {
  border-left: 3px solid var(--stone-5);
  padding-left: 10px;
  margin-block: 6px;
}
.answer {
  margin-top: 14px;
}
.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 12px;
}
.away {
  border-color: var(--madder);
}
.problem {
  border-left: 3px solid var(--ochre);
  background: var(--ochre-tint);
  padding: 6px 10px;
  margin-block: 6px;
  overflow-wrap: anywhere;
}
.apart {
  margin-top: 12px;
  font-size: 12px;
}
</style>
