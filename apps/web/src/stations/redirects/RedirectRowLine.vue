<script setup lang="ts">
import type { RedirectRow } from '@fastigium/contracts/api/redirects';
import { computed } from 'vue';
import { formatFigure } from '../../logic/format.ts';
import { LIKELY } from './coverage.ts';
import { formatShownAddress } from '../shared/settling/shownAddress.ts';
import ProbabilityBar from './ProbabilityBar.vue';
import { NOISE_WORDS } from '../shared/settling/noise.ts';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

const props = defineProps<{ row: RedirectRow; grid: string }>();
const landing = computed(() => {
  const { row } = props;
  if (row.problem)
    return {
      address: row.status === 410 ? say('common.goneForGood') : (row.to ?? say('redirectRowLine.nowhere')),
      words: speak(row.problem.message),
      face: row.problem.kind === 'chain' || row.problem.kind === 'idle' || row.problem.kind === 'over' ? '' : 'wrong',
    };
  if (row.kind === 'noise')
    return {
      address: say('redirectRowLine.setApart'),
      words: row.noise ? NOISE_WORDS[row.noise] : say('redirectRowLine.byAPerson'),
      face: 'quiet-address',
    };
  if (row.status === 410)
    return { address: say('common.goneForGood'), words: say('redirectRowLine.answers410'), face: 'quiet-address' };
  if (row.origin === 'open') {
    const { suggestion } = row;
    return suggestion && suggestion.probability >= LIKELY
      ? {
          address: suggestion.address,
          words: suggestion.title || say('redirectRowLine.aFileOfThisSite'),
          face: 'maybe',
        }
      : {
          address: say('redirectRowLine.nowhere2'),
          words: suggestion
            ? say('redirectRowLine.perhaps', { title: suggestion.title || suggestion.address })
            : say('redirectRowLine.visitorsFindAnError'),
          face: 'wrong',
        };
  }
  if (row.origin === 'page')
    return {
      address: row.to ?? '',
      words: say('redirectRowLine.isAPageHere', { toTitle: row.toTitle ?? '' }),
      face: '',
    };
  return {
    address: row.to ?? '',
    words:
      row.toTitle ?? (row.to?.startsWith('/') ? say('redirectRowLine.aFileOrAddressOf') : say('common.anotherSite')),
    face: '',
  };
});
const isOpen = computed(() => props.row.origin === 'open' && props.row.kind !== 'noise');
</script>

<template>
  <div class="cells" :style="{ gridTemplateColumns: grid }">
    <span class="address one-line" :title="row.from">{{ formatShownAddress(row.from) }}</span>
    <span class="figure">{{ row.visits === null ? '' : formatFigure(row.visits) }}</span>
    <svg class="way" width="28" height="12" viewBox="0 0 28 12" aria-hidden="true">
      <path v-if="landing.face === 'wrong'" d="M0 6h17M18 1l8 10M26 1l-8 10" />
      <path v-else-if="row.status === 410 || row.kind === 'noise'" d="M0 6h20M22 1v10" />
      <path v-else-if="landing.face === 'maybe'" d="M0 6h3M6 6h3M12 6h3M18 6h2M20 2.5 27 6l-7 3.5z" />
      <path v-else d="M0 6h20M20 2.5 27 6l-7 3.5z" class="arrow" />
    </svg>
    <span class="landing">
      <span class="address one-line" :class="landing.face" :title="landing.address">{{ landing.address }}</span>
      <span
        class="one-line"
        :class="row.problem ? 'caution' : 'quiet'"
        :title="row.problem ? landing.words : undefined"
        >{{ landing.words }}</span
      >
    </span>
    <ProbabilityBar v-if="isOpen" :probability="row.suggestion?.probability" />
    <span v-else class="quiet">{{ row.status ?? '' }}</span>
  </div>
</template>

<style scoped>
.cells {
  display: grid;
  gap: 16px;
  align-items: center;
}
.landing {
  display: block;
  min-width: 0;
  line-height: 18px;
}
.landing > * {
  display: block;
}
.quiet-address {
  color: var(--ink-5);
}
.caution {
  color: var(--ochre-dark);
}
.maybe {
  color: var(--ink-7);
}
.way path {
  fill: none;
  stroke: var(--stone-5);
  stroke-width: 1.3;
}
.way .arrow {
  fill: var(--stone-5);
}
</style>
