<script setup lang="ts">
/** The day of the move in one view: the steps of this site in their order, ticked off by what was measured. */
import { moveApi, type Move, type MoveStepView } from '@fastigium/contracts/api/move';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../../api/client.ts';
import KeystoneMark from '../../components/KeystoneMark.vue';
import LabelledField from '../../components/LabelledField.vue';
import StationLayout from '../../components/StationLayout.vue';
import { formatDuration } from '../../logic/duration.ts';
import { formatWhen } from '../../logic/format.ts';
import { useNotices } from '../../stores/notices.ts';
import { useReadAgain } from '../../stores/readAgain.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { useWorld } from '../../stores/world.ts';
import { splitLocalTime } from '../../logic/setTimeWords.ts';
import { STATE_MARKS, findStation, STEP_WORDS, sayTime } from './moveWords.ts';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

const site = useSite();
const session = useSession();
const notices = useNotices();
const world = useWorld();
const move = shallowRef<Move>();
const benchOpen = ref(false);
const date = ref('');
const time = ref('');
const minute = computed(() => Math.floor(world.nowMs / 60_000));

useReadAgain(
  async (id) => {
    move.value = await call(moveApi.get, { params: { site: id } });
  },
  ['draft', 'watch', 'address', 'redirects', 'snags', () => minute.value],
);
watch(
  () => move.value?.changeAt,
  (at) => {
    // The evening after next, where nobody chose: time enough for a TTL of a day.
    const fields = splitLocalTime(at ? new Date(at) : new Date(world.nowMs + 2 * 86_400_000));
    [date.value, time.value] = [fields.date, at ? fields.time : '18:00'];
  },
  { immediate: true },
);

const now = computed(() => new Date(world.nowMs));
const left = computed(() => (move.value?.steps ?? []).filter(({ state }) => state !== 'done' && state !== 'unneeded'));
const next = computed<MoveStepView | undefined>(
  () => left.value.find(({ state }) => state === 'now' || state === 'late') ?? left.value[0],
);
const chosen = computed(() => {
  const at = new Date(`${date.value}T${time.value}`);
  return Number.isNaN(at.getTime()) ? undefined : at;
});

async function plan(changeAt: string | null): Promise<void> {
  if (site.id === undefined) return;
  try {
    move.value = await call(moveApi.plan, { params: { site: site.id }, body: { changeAt } });
  } catch (error) {
    notices.problem(error);
  }
}
const HOUR_MS = 3_600_000;
</script>

<template>
  <StationLayout v-model:bench-open="benchOpen" :bench-label="say('moveView.theTimeOfTheMove')">
    <template #ledger>
      <div class="head">
        <h1 class="title-face">{{ say('common.theDayOfTheMove') }}</h1>
        <span v-if="move" class="quiet">{{
          left.length === 0
            ? say('moveView.everythingWasMeasuredAndIs')
            : say('moveView.stepsToGo', { left: left.length })
        }}</span>
        <button class="text-link to-bench" type="button" @click="benchOpen = true">
          {{ say('moveView.theTimeOfTheMove') }}
        </button>
      </div>
      <ol v-if="move" class="steps">
        <li
          v-for="(step, at) in move.steps"
          :key="step.step"
          :class="step.state"
          :aria-current="step === next ? 'step' : undefined"
        >
          <span class="number">{{ at + 1 }}</span>
          <KeystoneMark :mark="STATE_MARKS[step.state]" />
          <span class="what"
            ><span class="strong">{{ STEP_WORDS[step.step] }}</span
            ><span class="quiet">{{
              step.state === 'unneeded' ? say('moveView.notNeededHere') : speak(step.measured)
            }}</span></span
          >
          <span class="when" :class="{ caution: step.state === 'late' }">{{ sayTime(step, now) }}</span>
          <RouterLink
            class="text-link"
            :to="findStation(step.step)"
            :aria-label="say('moveView.workOnIt', { words: STEP_WORDS[step.step] })"
            >{{ step === next ? say('moveView.workOnIt2') : say('moveView.look') }}</RouterLink
          >
        </li>
      </ol>
    </template>
    <template #bench>
      <template v-if="move">
        <h1 class="title-face">
          {{
            move.changeAt
              ? say('moveView.visitorsMoveOver', { changeAt: formatWhen(move.changeAt, now) })
              : say('moveView.whenDoVisitorsMoveOver')
          }}
        </h1>
        <p class="quiet">
          {{ move.changeAt ? say('moveView.theOtherTimesFollowFrom') : say('moveView.chooseATimeAndThe') }}
        </p>
        <form v-if="session.mayEdit" @submit.prevent="chosen && plan(chosen.toISOString())">
          <LabelledField v-model="date" :label="say('common.day')" type="date" />
          <LabelledField v-model="time" :label="say('moveView.time')" type="time" />
          <v-btn type="submit" height="36" variant="flat" color="primary" :disabled="chosen === undefined">{{
            move.changeAt ? say('moveView.moveIt') : say('common.setIt')
          }}</v-btn>
          <button v-if="move.changeAt" class="text-link" type="button" @click="plan(null)">
            {{ say('moveView.noTimeYet') }}
          </button>
        </form>
        <hr class="rule" />
        <h2 class="heading">{{ say('moveView.whatTicksAStepOff') }}</h2>
        <p class="quiet">
          {{ say('moveView.nothingIsTickedOffBy') }}
        </p>
        <template v-if="move.simulated && world.clock">
          <hr class="rule" />
          <h2 class="heading">{{ say('moveView.rehearseIt') }}</h2>
          <p class="quiet">
            {{
              say('moveView.theWorldOutsideIsSimulated', {
                time: world.time,
                hasAheadMs: (world.clock.aheadMs ?? 0) > 0,
                aheadMs: formatDuration(world.clock.aheadMs),
              })
            }}
          </p>
          <div class="acts">
            <v-btn
              v-for="[ms, words] in [
                [HOUR_MS, say('moveView.n1Hour')],
                [6 * HOUR_MS, say('moveView.n6Hours')],
                [24 * HOUR_MS, say('moveView.n1Day')],
              ] as const"
              :key="ms"
              height="32"
              :disabled="!session.mayEdit"
              @click="world.runOn(ms)"
              >{{ say('moveView.on', { words }) }}</v-btn
            >
          </div>
        </template>
      </template>
    </template>
  </StationLayout>
</template>

<style scoped>
.head {
  display: flex;
  align-items: baseline;
  gap: 16px;
  padding: 12px 20px 8px;
  border-bottom: var(--line);
}
.head .quiet {
  flex: 1;
}
.to-bench {
  display: none;
}
.steps {
  list-style: none;
  margin: 0;
  padding: 0;
  overflow: auto;
  flex: 1;
}
li {
  display: grid;
  grid-template-columns: 20px auto 1fr auto minmax(76px, auto);
  gap: 12px;
  align-items: center;
  padding: 3px 20px;
  border-bottom: var(--line);
  min-height: 40px;
}
li[aria-current] .quiet,
li[aria-current] .number {
  color: var(--ink-7);
}
li[aria-current] {
  background: var(--lapis-tint);
  box-shadow: inset 3px 0 var(--lapis);
}
.number {
  text-align: right;
  color: var(--ink-5);
  font-variant-numeric: tabular-nums;
}
.what {
  display: grid;
  min-width: 0;
}
.done .strong,
.unneeded .strong {
  font-weight: 400;
}
.when {
  font-variant-numeric: tabular-nums;
  font-size: 13px;
  text-align: right;
}
.caution {
  color: var(--ochre-dark);
}
.text-link {
  justify-self: end;
  min-height: 24px;
}
form {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
  align-items: end;
  margin: 10px 0;
}
form .v-btn {
  justify-self: start;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
p {
  margin: 4px 0 8px;
}
@media (max-width: 999px) {
  .to-bench {
    display: block;
  }
}
</style>
