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
import OldPageCard from './OldPageCard.vue';
import { shownAddress } from './shownAddress.ts';
import { readTarget, STATUS_OPTIONS, suggestedTarget, type ChosenStatus } from './target.ts';
import { inBackground } from '../../../stores/background.ts';

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
const hasTerm = ref(note.value !== '' || until.value !== '');
const home = computed(() => props.pages.find(({ isHome }) => isHome));
const candidates = computed(() => (props.row?.origin === 'open' ? (old.value?.suggestions ?? []) : []));
const target = computed<LeadingTarget | undefined>(() =>
  isWriting.value
    ? written.value?.kind === 'none'
      ? undefined
      : written.value
    : suggestedTarget(candidates.value[chosen.value] ?? (old.value ? undefined : props.row?.suggestion)),
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
  () => inBackground(readSoon()),
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
  inBackground(nextTick(() => picker.value?.focus()));
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
        Old address{{ place === '' ? '' : ` ${place}`
        }}{{
          row.origin === 'moved'
            ? old?.wasPage
              ? '; made by itself while its page is removed'
              : '; made by itself because the page moved'
            : row.origin === 'pattern'
              ? '; answered by a pattern'
              : ''
        }}
      </p>
      <h1 class="address old">{{ shownAddress(row.from) }}</h1>
      <div v-if="row.problem" class="problem" role="alert">
        <p>{{ row.problem.words }}</p>
        <v-btn v-if="row.problem.kind === 'chain' && session.mayEdit" height="28" @click="flatten"
          >Lead there at once</v-btn
        >
        <v-btn
          v-else-if="isRule && session.mayEdit && (row.problem.kind === 'idle' || row.problem.kind === 'over')"
          height="28"
          @click="takeAway"
          >Take it away</v-btn
        >
      </div>
      <OldPageCard v-if="old" :old="old" />
      <p v-if="old?.settledBy" class="quiet">
        Settled by {{ old.settledBy.name
        }}{{
          old.settledAt
            ? ` on ${new Date(old.settledAt).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })}`
            : ''
        }}.
      </p>
    </template>
    <template v-else>
      <h1 class="title-face">A new redirect</h1>
      <p class="quiet">Write the old address as it was, with its question mark where it has one.</p>
      <LabelledField
        ref="fromField"
        v-model="from"
        class="address"
        label="Old address"
        placeholder="/old-page.html"
        :readonly="!session.mayEdit"
        maxlength="4000"
      />
    </template>
    <template v-if="row?.kind === 'noise'">
      <hr class="rule" />
      <p>
        Set apart{{ row.noise ? ` by a rule: ${row.noise}` : ' by a person' }}. Nobody is known to have followed a link
        to it, so it needs no redirect.
      </p>
      <v-btn v-if="session.mayEdit" @click="setApart(false)">Take it back<KeyHint keys="N" /></v-btn>
    </template>
    <template v-else-if="row?.origin === 'page'">
      <hr class="rule" />
      <p v-if="row.from.startsWith('//')">
        Without a redirect of its own it leads to the same address of this site, where a page is:
        {{ row.toTitle ?? row.to }}.
      </p>
      <p v-else>
        This old address is a live page of the new site. A live page always answers itself, so it needs no redirect.
      </p>
    </template>
    <template v-else-if="session.mayEdit">
      <hr class="rule" />
      <h2 class="heading">
        Where it could land <span v-if="candidates.length > 0" class="quiet">press the number</span>
      </h2>
      <div v-if="candidates.length > 0" role="radiogroup" aria-label="Pages it could land on">
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
        {{
          old.none === null
            ? 'Nothing was compared with it yet.'
            : 'No page is like it. Gone is a true answer; the home page is better than an error.'
        }}
      </p>
      <p v-if="old?.wasPage" class="back">
        This was “{{ old.wasPage.label }}”, a page that is removed.
        <button v-if="session.mayEdit" class="text-link" type="button" @click="putBack(old.wasPage)">
          Put it back
        </button>
        or
        <RouterLink class="text-link" :to="{ name: 'pages', params: { page: old.wasPage.page } }"
          >look at it in its place</RouterLink
        >
      </p>
      <p v-else-if="row?.origin === 'open' && old?.isWorthPuttingBack" class="back">
        People still ask for it, and no page is like it: its text is known and could be put back as a page of its own.
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
          >Settle<KeyHint keys="Enter"
        /></v-btn>
        <v-btn v-if="home" @click="settleHome">Home<KeyHint keys="H" /></v-btn>
        <v-btn @click="settleGone">Gone<KeyHint keys="X" /></v-btn>
        <v-btn v-if="!isWriting && candidates.length > 0" @click="write">Write<KeyHint keys="E" /></v-btn>
        <v-btn v-if="isRule" color="error" class="away" @click="takeAway">Take away</v-btn>
      </div>
      <h2 class="heading answer">
        Answer <span class="quiet">{{ STATUS_OPTIONS.find(({ value }) => value === status)?.hint }}</span>
      </h2>
      <SegmentedChoice v-model="status" label="Status of the answer" :options="STATUS_OPTIONS" />
      <div class="options">
        <label><input v-model="options.dropsQuery" type="checkbox" /> drop the visitor’s query</label>
        <label><input v-model="options.ignoreCase" type="checkbox" /> letter case does not count</label>
        <label><input v-model="options.anySlash" type="checkbox" /> with a last slash or without</label>
      </div>
      <p v-if="!hasTerm" class="apart">
        <button class="text-link" type="button" @click="hasTerm = true">With a note, or until a day</button>
      </p>
      <div v-else class="term">
        <LabelledField v-model="note" label="Note" placeholder="why it is there" maxlength="500" />
        <LabelledField
          v-model="until"
          type="date"
          label="Until"
          title="The last day it holds; releases made later are without it"
        />
      </div>
      <p v-if="row?.origin === 'open'" class="apart">
        <button class="text-link" type="button" @click="setApart(true)">Set apart: nobody follows a link to it</button
        >{{ ' ' }}
        <KeyHint keys="N" />
      </p>
    </template>
    <hr class="rule" />
    <h2 class="heading">Proof on the draft <span class="quiet">asked just now</span></h2>
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
.options {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  margin-top: 8px;
  font-size: 12px;
  color: var(--ink-7);
}
.term {
  display: grid;
  grid-template-columns: 1fr 150px;
  gap: 10px;
  margin-top: 10px;
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
