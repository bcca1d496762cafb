<script setup lang="ts">
/** Long work: what is being done, how far it is or why it waits to try again, and the way to stop it. */
import type { Job } from '@fastigium/contracts/api/jobs';
import { useNow } from '@vueuse/core';
import { computed, shallowRef, watch } from 'vue';
import { formatDuration } from '../logic/duration.ts';
import { reckonPace, withSample, type Sample } from '../logic/pace.ts';
import { reckonPercent, formatSize } from '../logic/format.ts';
import { explainKept, speak } from '../words/index.ts';
import { say } from './words.ts';

const props = defineProps<{ job: Job; waiting?: string; canCancel: boolean }>();
defineEmits<{ cancel: [] }>();

const progress = computed(() => props.job.progress);
const share = computed(() =>
  progress.value && progress.value.total > 0 ? reckonPercent(progress.value.done, progress.value.total) : undefined,
);
const samples = shallowRef<readonly Sample[]>([]);
watch(
  progress,
  (now, before) => {
    if (!now) return;
    samples.value = withSample(now.step.code === before?.step.code ? samples.value : [], {
      atMs: performance.now(),
      done: now.done,
    });
  },
  { immediate: true },
);
const pace = computed(() => {
  const now = progress.value;
  const known = now && reckonPace(samples.value, now.total);
  if (!known || now.done >= now.total) return '';
  const left = formatDuration(known.leftMs);
  return now.unit === 'bytes'
    ? say('jobProgress.leftAt', { speed: formatSize(Math.round(known.speed)), left })
    : say('jobProgress.left', { left });
});
const retry = computed(() => props.job.retry);
const clock = useNow({ interval: 1000 });
const again = computed(() => {
  if (!retry.value) return '';
  const leftMs = Date.parse(retry.value.at) - clock.value.getTime();
  return say('jobProgress.triedItIsTriedAgain', {
    tries: retry.value.tries,
    isSoon: leftMs < 1000,
    left: formatDuration(leftMs),
  });
});
const words = computed(() => {
  const now = progress.value;
  if (!now || now.total === 0) return '';
  if (now.unit === 'bytes')
    return say('jobProgress.bytesOf', { done: formatSize(now.done), total: formatSize(now.total) });
  return say('jobProgress.of', { done: now.done, total: now.total, unit: now.unit });
});
</script>

<template>
  <div class="job" role="status">
    <template v-if="retry">
      <p class="strong">{{ explainKept(retry.error) }}</p>
      <p class="quiet">{{ again }}</p>
    </template>
    <div v-else class="line">
      <span class="strong">{{ progress ? speak(progress.step) : (waiting ?? say('common.waitingToBegin')) }}</span>
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
