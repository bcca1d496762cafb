<script setup lang="ts">
/** Long work: what is being done, how far it is or why it waits to try again, and the way to stop it. */
import type { Job } from '@fastigium/contracts/api/jobs';
import { useNow } from '@vueuse/core';
import { computed, shallowRef, watch } from 'vue';
import { duration } from '../logic/duration.ts';
import { paceOf, withSample, type Sample } from '../logic/pace.ts';
import { figure, percent, size } from '../logic/format.ts';
import { explainKept } from '../words/index.ts';
import { say } from './words.ts';

const props = defineProps<{ job: Job; waiting?: string; canCancel: boolean }>();
defineEmits<{ cancel: [] }>();

const progress = computed(() => props.job.progress);
const share = computed(() =>
  progress.value && progress.value.total > 0 ? percent(progress.value.done, progress.value.total) : undefined,
);
const samples = shallowRef<readonly Sample[]>([]);
watch(
  progress,
  (now, before) => {
    if (!now) return;
    samples.value = withSample(now.step === before?.step ? samples.value : [], {
      atMs: performance.now(),
      done: now.done,
    });
  },
  { immediate: true },
);
const pace = computed(() => {
  const now = progress.value;
  const known = now && paceOf(samples.value, now.total);
  if (!known || now.done >= now.total) return '';
  return say('jobProgress.left', {
    unit: now.unit === 'bytes' ? `${size(Math.round(known.speed))}/s, ` : '',
    leftMs: duration(known.leftMs),
  });
});
const retry = computed(() => props.job.retry);
const clock = useNow({ interval: 1000 });
const again = computed(() => {
  if (!retry.value) return '';
  const leftMs = Date.parse(retry.value.at) - clock.value.getTime();
  const times = retry.value.tries === 1 ? 'once' : say('jobProgress.times', { tries: retry.value.tries });
  return say('jobProgress.triedItIsTriedAgain', { times, fewLeftMs: leftMs < 1000, leftMs: duration(leftMs) });
});
const words = computed(() => {
  const now = progress.value;
  if (!now) return '';
  const write = now.unit === 'bytes' ? size : figure;
  return now.total > 0
    ? say('jobProgress.of', {
        done: write(now.done),
        total: write(now.total),
        unit: now.unit === 'bytes' ? '' : ` ${now.unit}`,
      })
    : '';
});
</script>

<template>
  <div class="job" role="status">
    <template v-if="retry">
      <p class="strong">{{ explainKept(retry.error) }}</p>
      <p class="quiet">{{ again }}</p>
    </template>
    <div v-else class="line">
      <span class="strong">{{ progress?.step ?? waiting ?? say('common.waitingToBegin') }}</span>
      <span class="quiet figure">{{ [words, pace].filter((part) => part !== '').join(', ') }}</span>
    </div>
    <v-progress-linear
      v-if="!retry"
      :model-value="share ?? 0"
      :indeterminate="share === undefined"
      color="verdigris"
      bg-color="stone3"
      height="8"
      :aria-label="say('jobProgress.progress')"
    />
    <button v-if="canCancel" class="text-link" type="button" @click="$emit('cancel')">
      {{ say('jobProgress.cancelNothingOfItIs') }}
    </button>
  </div>
</template>

<style scoped>
.job {
  display: grid;
  gap: 6px;
  justify-items: start;
}
.job p {
  margin: 0;
}
.line {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  width: 100%;
}
</style>
