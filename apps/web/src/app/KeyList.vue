<script setup lang="ts">
/** All keys in one list. */
import { STATION_KEYS } from '../logic/bays.ts';

defineEmits<{ close: [] }>();
const KEYS: readonly (readonly [keys: string, what: string])[] = [
  ['J or ↓, K or ↑', 'next row, row before'],
  ['Home, End, PgUp, PgDn', 'far rows'],
  ['Enter', 'work on the row, or decide and move on'],
  ['E, D', 'Pages, Metadata: write the title, the description; Enter and Tab go on to the next cell'],
  ['T', 'Metadata: take what is suggested'],
  ['E', 'Redirects: choose where it lands'],
  ['P', 'Survey, Pages: point at things in the page'],
  ['N, M', 'Pages: ready or not, in menus or not · Metadata: N keeps a page out of search, or lets it in'],
  ['Alt with arrows', 'Pages, menus: move the row, nest it, lift it'],
  ['Del, B', 'Pages, menus: remove, with what leads there shown first; put back'],
  ['Space', 'Removed: mark the row'],
  ['H', 'Pages: use as home page · Redirects: land on the home page'],
  ['X', 'Survey: let it be, with a reason · Redirects: gone for good (410)'],
  ['A', 'Pages: add to the tree · Redirects: add an old address · Address: look again'],
  ['/', 'search the list'],
  ['Ctrl Z, Ctrl Shift Z', 'one step back, one step forward'],
  ['L', 'history of the draft'],
  ['Ctrl K', 'find or do'],
  ['Esc', 'back to the list; what you typed stays'],
  ...Object.entries(STATION_KEYS).map(
    ([station, key]) => [`G ${key.toUpperCase()}`, `go to ${station[0]?.toUpperCase()}${station.slice(1)}`] as const,
  ),
];
</script>

<template>
  <v-dialog model-value aria-label="Keys" @update:model-value="$emit('close')">
    <v-sheet class="keys">
      <h2 class="title-face">Keys</h2>
      <dl>
        <template v-for="[keys, what] in KEYS" :key="keys"
          ><dt>{{ keys }}</dt>
          <dd>{{ what }}</dd></template
        >
      </dl>
      <v-btn class="close" @click="$emit('close')">Close</v-btn>
    </v-sheet>
  </v-dialog>
</template>

<style scoped>
.keys {
  border: 1px solid var(--stone-3);
  border-radius: 3px;
  padding: 16px 20px;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 20px;
  margin: 12px 0 16px;
}
dt {
  font-family: var(--face-address);
  font-size: 12px;
}
dd {
  margin: 0;
}
.close {
  justify-self: start;
}
</style>
