<script setup lang="ts">
/** The gable and the door under it: where people come in. */
import GableMark from '../components/GableMark.vue';
import { say } from './words.ts';

defineEmits<{ enter: [] }>();
</script>

<template>
  <main class="entrance">
    <svg class="pediment" viewBox="0 0 400 60" preserveAspectRatio="none" aria-hidden="true">
      <path d="M0 59 200 2l200 57z" vector-effect="non-scaling-stroke" />
    </svg>
    <form class="door" @submit.prevent="$emit('enter')">
      <h1>
        <span class="sign"><GableMark /></span>{{ say('entranceDoor.fastigium') }}
      </h1>
      <slot />
    </form>
  </main>
</template>

<style scoped>
.entrance {
  min-height: 100dvh;
  display: grid;
  align-content: center;
  justify-content: center;
  grid-template-columns: minmax(0, 400px);
  background: var(--stone-1);
  padding: 20px;
}
.pediment {
  width: 100%;
  height: 60px;
  display: block;
}
.pediment path {
  fill: var(--paper);
  stroke: var(--ink-9);
  stroke-width: 1.5;
}
.door {
  display: grid;
  gap: 14px;
  padding: 20px 32px 28px;
  background: var(--paper);
  border: 1px solid var(--stone-3);
  border-top: 0;
}
h1 {
  display: flex;
  align-items: center;
  gap: 10px;
  font-family: var(--face-title);
  font-weight: 400;
  font-size: 26px;
  line-height: 36px;
  margin: 0;
}
.sign {
  display: grid;
  background: var(--lintel);
  padding: 6px;
  border-radius: 2px;
}
.door :slotted(p) {
  margin: 0;
}
</style>
