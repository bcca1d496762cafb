<script setup lang="ts">
/** Seven bays, one a station, in the order of the work; the open one stands under a gable line. */
import { computed, nextTick, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import KeystoneMark from '../components/KeystoneMark.vue';
import { deriveBays } from '../logic/bays.ts';
import { useSite } from '../stores/site.ts';
import { runInBackground } from '../stores/background.ts';
import { say } from './words.ts';

const site = useSite();
const route = useRoute();
const bays = computed(() => (site.overview ? deriveBays(site.overview, site.changes) : []));
const nav = ref<HTMLElement>();
// Where the bays do not fit, the open one is brought into view.
watch(
  () => [route.name, bays.value.length > 0],
  () =>
    runInBackground(
      nextTick(() => nav.value?.querySelector('.open')?.scrollIntoView({ block: 'nearest', inline: 'center' })),
    ),
  { immediate: true },
);
</script>

<template>
  <nav ref="nav" class="frieze" :aria-label="say('appFrieze.stations')">
    <component
      :is="bay.isOpen ? 'RouterLink' : 'span'"
      v-for="bay in bays"
      :key="bay.station"
      class="bay"
      :class="{ open: route.name === bay.station, inert: !bay.isOpen }"
      :to="bay.isOpen ? { name: bay.station } : undefined"
      :aria-current="route.name === bay.station ? 'page' : undefined"
      :aria-disabled="bay.isOpen ? undefined : true"
    >
      <svg
        v-if="route.name === bay.station"
        class="gable"
        viewBox="0 0 100 20"
        preserveAspectRatio="none"
        aria-hidden="true"
      >
        <path d="M0 19.4 50 1l50 18.4z" vector-effect="non-scaling-stroke" />
      </svg>
      <span class="title">{{ bay.title }}</span>
      <KeystoneMark class="mark" :mark="bay.mark" />
      <span class="words one-line"
        >{{ bay.words }}<span class="visually-hidden">, {{ bay.standing }}</span></span
      >
    </component>
  </nav>
</template>

<style scoped>
.frieze {
  flex: none;
  height: 74px;
  display: grid;
  grid-template-columns: repeat(7, minmax(0, 1fr));
  background: var(--stone-1);
  border-bottom: 1px solid var(--stone-3);
  box-sizing: border-box;
}
.bay {
  position: relative;
  display: grid;
  grid-template: 24px 18px / 1fr auto;
  align-content: end;
  padding: 0 16px 10px 18px;
  border-right: 1px solid var(--stone-3);
  color: var(--ink-9);
  text-decoration: none;
  min-width: 0;
}
.bay:last-child {
  border-right: 0;
}
a.bay:hover {
  background: var(--stone-2);
}
.bay.open,
a.bay.open:hover {
  background: var(--paper);
  box-shadow: 0 1px var(--paper);
}
.bay.inert {
  color: var(--ink-5);
}
.gable {
  position: absolute;
  inset: 2px 0 auto;
  width: 100%;
  height: 20px;
}
.gable path {
  fill: none;
  stroke: var(--ink-9);
  stroke-width: 1.5;
}
.title {
  font-family: var(--face-title);
  font-size: 18px;
  line-height: 24px;
}
.mark {
  align-self: center;
}
.words {
  grid-column: 1 / -1;
  font-size: 12px;
  line-height: 18px;
  color: var(--ink-5);
}
.bay:focus-visible {
  outline-offset: -3px;
}
@media (max-width: 999px) {
  .frieze {
    display: flex;
    overflow-x: auto;
    overflow-y: hidden;
  }
  .bay {
    flex: 0 0 132px;
    padding-inline: 12px;
  }
}
</style>
