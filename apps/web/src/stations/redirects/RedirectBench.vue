<script setup lang="ts">
/** One old address: where it lands, and the proof on the draft. */
import type { PageRow, RedirectRow } from '@fastigium/contracts/api/draft';
import { computed, ref } from 'vue';
import KeyHint from '../../components/KeyHint.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import LabelledField from '../../components/LabelledField.vue';
import { count } from '../../logic/format.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import DraftProof from '../shared/DraftProof.vue';
import PagePicker from '../shared/PagePicker.vue';
import type { PickedTarget } from '../shared/pickedTarget.ts';
import { readTarget, STATUS_OPTIONS, type ChosenStatus } from './target.ts';

const props = defineProps<{ row: RedirectRow | undefined; pages: readonly PageRow[] }>();
const emit = defineEmits<{ settling: [from: string]; settled: []; back: [] }>();
const site = useSite();
const session = useSession();
const from = ref(props.row?.from ?? '');
const status = ref<ChosenStatus>(props.row?.status ?? 301);
const target = ref<PickedTarget | undefined>(readTarget(props.row));
const fromField = ref<{ focus(): void }>();
const picker = ref<InstanceType<typeof PagePicker>>();
const busy = ref(false);
const home = computed(() => props.pages.find(({ isHome }) => isHome));
const isReady = computed(() => from.value.trim() !== '' && (status.value === 410 || target.value !== undefined));
const isRule = computed(() => props.row?.origin === 'decided');

async function settle(): Promise<void> {
  if (!isReady.value || busy.value) return;
  busy.value = true;
  if (props.row) emit('settling', props.row.from);
  const done = await site.decide({
    kind: 'redirect', from: from.value,
    to: status.value === 410 ? { status: 410 } : { status: status.value, target: target.value ?? { kind: 'address', address: '/' } },
  });
  busy.value = false;
  if (!done) return;
  if (props.row) emit('settled');
  else {
    // Ready for the next one, at the keyboard.
    from.value = '';
    target.value = undefined;
    fromField.value?.focus();
  }
}

async function settleHome(): Promise<void> {
  if (!home.value) return;
  target.value = { kind: 'page', page: home.value.id };
  if (status.value === 410) status.value = 301;
  await settle();
}

async function settleGone(): Promise<void> {
  status.value = 410;
  await settle();
}

async function takeAway(): Promise<void> {
  if (!props.row) return;
  emit('settling', props.row.from);
  if (await site.decide({ kind: 'redirect-removed', from: props.row.from })) emit('settled');
}

defineExpose({ start: () => (props.row ? picker.value?.focus() : fromField.value?.focus()), settleHome, settleGone });
</script>

<template>
  <form @submit.prevent="settle" @keydown.esc="emit('back')">
    <template v-if="row">
      <p class="quiet">Old address</p>
      <h1 class="address old">{{ row.from }}</h1>
      <p class="quiet">{{ row.visits === null ? 'no visits known' : count(row.visits, 'visit') }}{{ row.origin === 'moved' ? '; made by itself because the page moved' : '' }}</p>
    </template>
    <template v-else>
      <h1 class="title-face">A new redirect</h1>
      <p class="quiet">Write the old address as it was, with its question mark where it has one.</p>
      <LabelledField ref="fromField" v-model="from" class="address" label="Old address" placeholder="/old-page.html" :readonly="!session.mayEdit" maxlength="4000" />
    </template>
    <template v-if="row?.origin === 'page'">
      <hr class="rule" />
      <p>This old address is a live page of the new site. A live page always answers itself, so it needs no redirect.</p>
    </template>
    <template v-else-if="session.mayEdit">
      <hr class="rule" />
      <h2 class="heading">Where it lands <span class="quiet">a page (Alt 1 to 5), or an address you write</span></h2>
      <PagePicker ref="picker" v-model="target" :pages="pages" :disabled="status === 410" />
      <h2 class="heading answer">Answer <span class="quiet">{{ STATUS_OPTIONS.find(({ value }) => value === status)?.hint }}</span></h2>
      <SegmentedChoice v-model="status" label="Status of the answer" :options="STATUS_OPTIONS" />
      <div class="actions">
        <v-btn type="submit" variant="flat" color="primary" :disabled="!isReady" :loading="busy">Settle<KeyHint keys="Enter" /></v-btn>
        <v-btn v-if="home" @click="settleHome">Home<KeyHint keys="H" /></v-btn>
        <v-btn @click="settleGone">Gone<KeyHint keys="X" /></v-btn>
        <v-btn v-if="isRule" color="error" class="away" @click="takeAway">Take away</v-btn>
      </div>
    </template>
    <hr class="rule" />
    <h2 class="heading">Proof on the draft <span class="quiet">asked just now</span></h2>
    <DraftProof :address="from" />
  </form>
</template>

<style scoped>
p { margin: 2px 0; }
.old { font-size: 15px; font-weight: 600; line-height: 22px; margin: 2px 0; }
.answer { margin-top: 14px; }
.actions { display: flex; flex-wrap: wrap; gap: 8px; margin-top: 16px; }
.away { border-color: var(--madder); }
</style>
