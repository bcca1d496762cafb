<script setup lang="ts">
/** A plan for a change still to come: when to lower the TTL, when to change, how long the old host stays. */
import { planChange } from '@fastigium/core/dns';
import { computed, ref } from 'vue';
import { formatDuration } from '../../logic/duration.ts';
import { formatWhen } from '../../logic/format.ts';
import { useAddress } from './address.ts';
import { say } from './words.ts';

const { standing, nowMs } = useAddress();
const ttl = computed(() => standing.value?.spread?.presentTtlSeconds ?? null);
const changeAt = ref('');
/** What a datetime field takes, in the reader's own zone. */
const local = (ms: number) => new Date(ms - new Date(ms).getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
const least = computed(() => local(nowMs.value));
const plan = computed(() => {
  const at = Date.parse(changeAt.value);
  return ttl.value === null || Number.isNaN(at)
    ? undefined
    : planChange({ nowMs: nowMs.value, changeAtMs: Math.max(at, nowMs.value), ttlSeconds: ttl.value });
});
const formatAt = (ms: number) => formatWhen(new Date(ms).toISOString(), new Date(nowMs.value));
</script>

<template>
  <details v-if="ttl !== null && (standing?.changes.length ?? 0) > 0" class="planner">
    <summary>{{ say('changePlanner.planTheChangeForA') }}</summary>
    <label class="quiet" for="change-at">{{ say('changePlanner.whenShouldVisitorsMoveOver') }}</label>
    <input id="change-at" v-model="changeAt" type="datetime-local" :min="least" />
    <ol v-if="plan">
      <li :class="{ late: plan.tooLate }">
        <b>{{
          plan.tooLate ? say('changePlanner.now') : say('changePlanner.by', { lowerByMs: formatAt(plan.lowerByMs) })
        }}</b><span>{{
          say('changePlanner.lowerTheTtlOfThese', {
            ttl: formatDuration((ttl ?? 0) * 1000),
            hasTooLate: Boolean(plan.tooLate),
            lowerByMs: formatAt(plan.lowerByMs),
          })
        }}</span>
      </li>
      <li>
        <b>{{ formatAt(plan.changeAtMs) }}</b><span>{{ say('changePlanner.changeTheRecords') }}</span>
      </li>
      <li>
        <b>{{ say('changePlanner.until', { keepOldUntilMs: formatAt(plan.keepOldUntilMs) }) }}</b><span>{{
          say('changePlanner.keepTheOldHostUp')
        }}</span>
      </li>
      <li>
        <b>{{ say('changePlanner.then') }}</b><span>{{ say('changePlanner.raiseTheTtlAgainSo') }}</span>
      </li>
    </ol>
    <p v-if="plan" class="quiet">
      {{
        plan.savedMs > 0
          ? say('changePlanner.withoutLoweringItFirstThe', {
              unloweredKeepOldUntilMs: formatAt(plan.unloweredKeepOldUntilMs),
              savedMs: formatDuration(plan.savedMs),
            })
          : say('changePlanner.loweringTheTtlWouldGain')
      }}
    </p>
  </details>
</template>

<style scoped>
.planner {
  padding: 8px 20px;
  border-top: var(--line);
}
summary {
  cursor: pointer;
  color: var(--ink-7);
}
label {
  display: block;
  margin: 8px 0 4px;
}
input {
  font: inherit;
  padding: 4px 8px;
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  background: var(--bench);
  color: inherit;
  color-scheme: light dark;
}
ol {
  list-style: none;
  margin: 10px 0;
  padding: 0;
  display: grid;
  gap: 6px;
}
li {
  display: grid;
  grid-template-columns: 150px 1fr;
  gap: 12px;
  border-left: 3px solid var(--verdigris);
  padding-left: 10px;
}
li.late {
  border-left-color: var(--ochre);
}
</style>
