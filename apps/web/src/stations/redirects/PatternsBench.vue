<script setup lang="ts">
/** Many old addresses with one rule: the patterns in their order, and what the one being written would catch. */
import { redirectsApi, type PatternPreview, type PatternRow } from '@fastigium/contracts/api/redirects';
import { useDebounceFn } from '@vueuse/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../../api/client.ts';
import LabelledField from '../../components/LabelledField.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { useNotices } from '../../stores/notices.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import ProposedPatterns from './ProposedPatterns.vue';
import { STATUS_OPTIONS, type ChosenStatus } from '../shared/settling/target.ts';
import { speak } from '../../words/index.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';
import RichWords from '../../words/RichWords.ts';

const props = defineProps<{ /** Grows when old addresses or rules changed. */ tick: number }>();
const emit = defineEmits<{ leave: [] }>();
const site = useSite();
const session = useSession();
const notices = useNotices();
const patterns = shallowRef<PatternRow[]>([]);
const chosen = ref<string | null>(null);
const text = ref('');
const target = ref('');
const status = ref<ChosenStatus>(301);
const ignoreCase = ref(false);
const dropsQuery = ref(false);
const note = ref('');
const until = ref('');
const preview = shallowRef<PatternPreview>();
const busy = ref(false);
let asked = 0;

const isReady = computed(
  () =>
    text.value.trim() !== '' && (status.value === 410 || target.value.trim() !== '') && preview.value?.problem === null,
);
const request = computed(() => ({
  id: chosen.value,
  text: text.value.trim(),
  status: status.value,
  target: status.value === 410 ? null : target.value.trim(),
  ignoreCase: ignoreCase.value,
  dropsQuery: dropsQuery.value,
}));

watch(
  [() => site.id, () => props.tick],
  async () => {
    if (site.id !== undefined) patterns.value = await call(redirectsApi.patterns, { params: { site: site.id } });
  },
  { immediate: true },
);

const look = async () => {
  if (site.id === undefined || request.value.text === '') {
    preview.value = undefined;
    return;
  }
  const mine = (asked += 1);
  try {
    const seen = await call(redirectsApi.previewPattern, { params: { site: site.id }, body: request.value });
    if (mine === asked) preview.value = seen;
  } catch (error) {
    if (mine === asked) notices.problem(error);
  }
};
const lookUpSoon = useDebounceFn(look, 250);
watch([request, () => props.tick], () => runInBackground(lookUpSoon()), { deep: true });

function choose(row: PatternRow | undefined): void {
  chosen.value = row?.id ?? null;
  text.value = row?.text ?? '';
  target.value = row?.target ?? '';
  status.value = row?.status ?? 301;
  ignoreCase.value = row?.ignoreCase ?? false;
  dropsQuery.value = row?.dropsQuery ?? false;
  note.value = row?.note ?? '';
  until.value = row?.until ?? '';
}

async function keep(): Promise<void> {
  if (!isReady.value || busy.value) return;
  busy.value = true;
  const sent = request.value;
  // Whoever has begun to write the next one meanwhile keeps it.
  const term = {
    ...(note.value.trim() === '' ? {} : { note: note.value.trim() }),
    ...(until.value === '' ? {} : { until: until.value }),
  };
  if ((await site.decide({ kind: 'pattern', ...sent, ...term })) && request.value === sent) choose(undefined);
  busy.value = false;
}

async function takeAway(): Promise<void> {
  if (
    chosen.value !== null &&
    (await site.decide({
      kind: 'remove',
      thing: { kind: 'redirects', froms: [], patterns: [chosen.value] },
      standIn: { kind: 'none' },
      links: 'kept',
      why: '',
      newHome: null,
    }))
  )
    choose(undefined);
}

async function move(row: PatternRow, by: 1 | -1): Promise<void> {
  const ids = patterns.value.map(({ id }) => id);
  const at = ids.indexOf(row.id);
  const other = ids[at + by];
  if (other === undefined) return;
  [ids[at], ids[at + by]] = [other, row.id];
  await site.decide({ kind: 'patterns-ordered', ids });
}

const words = ({ status: code, to }: { status: number; to: string | null }) =>
  to === null
    ? code === 404
      ? say('patternsBench.nowhere')
      : code === 410
        ? say('patternsBench.gone410')
        : say('patternsBench.itself')
    : to;
</script>

<template>
  <form @submit.prevent="keep" @keydown.esc="emit('leave')">
    <h1 class="title-face">{{ say('patternsBench.patterns') }}</h1>
    <p class="quiet">
      {{ say('patternsBench.oneRuleForManyOld') }}
    </p>
    <ol v-if="patterns.length > 0" class="patterns">
      <li v-for="(row, index) in patterns" :key="row.id" :class="{ on: row.id === chosen }">
        <button type="button" class="pick" @click="choose(row)">
          <span class="address one-line">{{ row.text }}</span>
          <span class="quiet one-line"
            >→ <span class="address">{{ row.target ?? say('patternsBench.gone410') }}</span></span
          >
          <span class="quiet"
            >{{
              say('patternsBench.catchesVisits', {
                catches: row.catches,
                hasVisits: row.visits > 0,
                visits: row.visits,
              })
            }}<span v-if="row.hidden > 0" :title="say('patternsBench.aSingleRedirectALive')">{{
              say('patternsBench.answeredBeforeIt', { hidden: row.hidden })
            }}</span></span
          >
          <span v-if="row.problem" class="caution">{{ speak(row.problem.message) }}</span><span
            v-if="row.note"
            class="quiet one-line"
            >{{ row.note }}</span
          >
        </button>
        <span v-if="session.mayEdit && patterns.length > 1" class="order">
          <button
            type="button"
            class="text-link"
            :disabled="index === 0"
            :aria-label="say('patternsBench.tryEarlier', { text: row.text })"
            @click="move(row, -1)"
          >
            {{ say('patternsBench.up') }}
          </button>
          <button
            type="button"
            class="text-link"
            :disabled="index === patterns.length - 1"
            :aria-label="say('patternsBench.tryLater', { text: row.text })"
            @click="move(row, 1)"
          >
            {{ say('patternsBench.down') }}
          </button>
        </span>
      </li>
    </ol>
    <template v-if="session.mayEdit">
      <hr class="rule" />
      <h2 class="heading">
        {{ chosen === null ? say('patternsBench.aNewPattern') : say('patternsBench.thisPattern') }}
        <button v-if="chosen !== null" type="button" class="text-link quiet" @click="choose(undefined)">
          {{ say('patternsBench.aNewOneInstead') }}
        </button>
      </h2>
      <LabelledField
        v-model="text"
        class="address"
        :label="say('common.oldAddresses')"
        placeholder="/news/:year/:slug.html"
        maxlength="2000"
        spellcheck="false"
      />
      <p class="quiet hint">
        <RichWords :words="say.parts('patternsBench.nameAsFarAsThe')" />
      </p>
      <LabelledField
        v-if="status !== 410"
        v-model="target"
        class="address"
        :label="say('patternsBench.whereTheyLand')"
        placeholder="/journal/:slug/"
        maxlength="2000"
        spellcheck="false"
      />
      <div class="options">
        <SegmentedChoice v-model="status" :label="say('patternsBench.statusOfTheAnswer')" :options="STATUS_OPTIONS" />
        <label><input v-model="ignoreCase" type="checkbox" /> {{ say('patternsBench.letterCaseDoesNotCount') }}</label>
        <label><input v-model="dropsQuery" type="checkbox" /> {{ say('patternsBench.dropTheVisitorsQuery') }}</label>
      </div>
      <div class="term">
        <LabelledField
          v-model="note"
          :label="say('common.note')"
          :placeholder="say('patternsBench.whyItIsThere')"
          maxlength="500"
        /><LabelledField
          v-model="until"
          type="date"
          :label="say('patternsBench.until')"
          :title="say('patternsBench.theLastDayItHolds')"
        />
      </div>
      <p v-if="preview?.problem && text.trim() !== ''" class="wrong" role="alert">{{ speak(preview.problem) }}</p>
      <div class="acts">
        <v-btn type="submit" variant="flat" color="primary" height="32" :disabled="!isReady" :loading="busy">{{
          chosen === null ? say('patternsBench.addIt') : say('patternsBench.keepItSo')
        }}</v-btn>
        <v-btn v-if="chosen !== null" height="32" color="error" class="away" @click="takeAway">{{
          say('patternsBench.takeAway')
        }}</v-btn>
        <v-btn height="32" @click="emit('leave')">{{ say('common.backToTheList') }}</v-btn>
      </div>
    </template>
    <template v-if="preview && preview.problem === null">
      <h2 class="heading next">
        {{ say('patternsBench.itWouldCatchKnownAddresses', { caught: preview.caught }) }}
        <span v-if="preview.hidden > 0" class="quiet">{{
          say('patternsBench.moreAreAnsweredBeforeIt', { hidden: preview.hidden })
        }}</span>
      </h2>
      <ul class="catches" :aria-label="say('patternsBench.whatItWouldCatch')">
        <li v-for="each in preview.catches" :key="each.from">
          <span class="address one-line" :title="each.from">{{ each.from }}</span>
          <span class="one-line"
            ><s v-if="each.before.to !== each.after.to || each.before.status !== each.after.status" class="quiet">{{
              words(each.before)
            }}</s>
            → <span class="address" :class="{ wrong: each.lands === false }">{{ words(each.after) }}</span><span
              v-if="each.lands === false"
              class="wrong"
              >{{ say('patternsBench.whereNothingIs') }}</span
            ></span
          >
        </li>
      </ul>
    </template>
    <ProposedPatterns v-if="session.mayEdit && text === ''" :tick="tick" />
  </form>
</template>

<style scoped>
p {
  margin: 4px 0;
}
.patterns {
  list-style: none;
  margin: 12px 0 0;
  padding: 0;
  border-top: var(--line);
}
.patterns li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: center;
  border-bottom: var(--line);
  border-left: 3px solid transparent;
}
.patterns li.on {
  background: var(--lapis-tint);
  border-left-color: var(--lapis);
  --ink-5: var(--ink-7);
}
.pick {
  display: grid;
  min-width: 0;
  text-align: left;
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 6px 8px;
  cursor: pointer;
  line-height: 18px;
}
.order {
  display: flex;
  gap: 8px;
  padding-inline-end: 8px;
  font-size: 12px;
}
.hint {
  margin-block: 4px 10px;
}
.options {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
  margin-block: 10px;
  font-size: 13px;
}
.term {
  display: grid;
  grid-template-columns: 1fr 150px;
  gap: 10px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-block: 10px;
}
.away {
  border-color: var(--madder);
}
.caution {
  color: var(--ochre-dark);
}
.next {
  margin-top: 16px;
}
.catches {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: var(--line);
}
.catches li {
  display: grid;
  padding: 5px 0;
  border-bottom: var(--line);
  line-height: 18px;
  font-size: 13px;
}
</style>
