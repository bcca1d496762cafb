<script setup lang="ts">
/** A page beside the stations: what there is on the left, what can be done with it on the right. */
import AppLintel from './AppLintel.vue';
</script>

<template>
  <div class="frame">
    <AppLintel />
    <main class="middle">
      <section class="list"><slot /></section>
      <aside v-if="$slots.bench" class="bench"><slot name="bench" /></aside>
    </main>
  </div>
</template>

<style scoped>
.frame {
  height: 100dvh;
  display: flex;
  flex-direction: column;
}
.middle {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-wrap: wrap;
  overflow: auto;
}
.list {
  flex: 1 1 560px;
  min-width: 0;
  padding: 24px 0;
  background: var(--paper);
}
.list > :slotted(h1) {
  padding-inline: 28px;
  margin-bottom: 14px;
}
.list > :slotted(h2) {
  padding: 22px 28px 6px;
}
.list > :slotted(p) {
  padding-inline: 28px;
  max-width: 620px;
}
.bench {
  flex: 0 1 420px;
  min-width: 320px;
  padding: 24px 28px;
  background: var(--bench);
  border-left: 1px solid var(--stone-3);
  box-sizing: border-box;
}
.bench :slotted(p) {
  margin: 8px 0 12px;
}
</style>
