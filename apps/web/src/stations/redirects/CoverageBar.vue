<script setup lang="ts">
import { computed } from 'vue';
import { formatShare } from '../../logic/format.ts';
import { MUCH_HOME, type Coverage } from './coverage.ts';
import { say } from './words.ts';
import RichWords from '../../words/RichWords.ts';

const props = defineProps<{ sums: Coverage }>();
const share = (part: number) => `${props.sums.visits === 0 ? 0 : (part / props.sums.visits) * 100}%`;
const isMuchHome = computed(() => props.sums.home > props.sums.visits * MUCH_HOME);
const parts = computed(() => {
  const { home, suggested, gone, lost, visits } = props.sums;
  return [
    { words: say('coverageBar.suggested'), value: suggested, wrong: false },
    { words: say('coverageBar.onTheHomePage'), value: home, wrong: isMuchHome.value },
    { words: say('coverageBar.goneOnPurpose'), value: gone, wrong: false },
    { words: say('coverageBar.lost'), value: lost, wrong: false },
  ]
    .filter(({ value, words }) => value > 0 || words === 'lost')
    .map(({ words, value, wrong }) => ({ text: `${formatShare(value, visits)} ${words}`, wrong }));
});
</script>

<template>
  <div v-if="sums.visits > 0" class="coverage">
    <div class="bar" aria-hidden="true">
      <span class="landing" :style="{ width: share(sums.landing) }" /><span
        class="suggested"
        :style="{ width: share(sums.suggested) }"
      /><span class="home" :style="{ width: share(sums.home) }" /><span
        class="gone"
        :style="{ width: share(sums.gone) }"
      /><span class="lost" :style="{ width: share(sums.lost) }" />
    </div>
    <span
      ><RichWords
        :words="
          say.parts('coverageBar.ofOldAddressesLandOn', {
            landing: formatShare(sums.landing, sums.visits),
            hasVisits: sums.hasVisits,
            visits: sums.visits,
          })
        "
    /></span>
    <span class="quiet">
      <template v-for="(part, index) in parts" :key="part.text"
        >{{ index > 0 ? ', ' : ''
        }}<span
          :class="{ caution: part.wrong }"
          :title="part.wrong ? say('coverageBar.searchEnginesMayTakeSo') : undefined"
          >{{ part.text }}</span
        ></template
      >
    </span>
  </div>
</template>

<style scoped>
.coverage {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 16px;
  padding: 10px 20px 8px;
  border-bottom: var(--line);
  align-items: baseline;
}
.coverage > :last-child {
  text-align: right;
}
.bar {
  grid-column: 1 / -1;
  display: flex;
  height: 14px;
  border: 1px solid var(--stone-3);
  overflow: hidden;
}
.landing {
  background: var(--verdigris);
}
.suggested {
  background: repeating-linear-gradient(90deg, var(--verdigris) 0 2px, var(--verdigris-tint) 2px 5px);
}
.home {
  background: var(--ochre);
}
.gone {
  background: var(--stone-5);
}
.lost {
  background: repeating-linear-gradient(45deg, var(--madder) 0 5px, var(--madder-tint) 5px 10px);
}
.caution {
  color: var(--ochre-dark);
  font-weight: 600;
}
</style>
