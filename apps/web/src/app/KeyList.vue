<script setup lang="ts">
/** All keys in one list. */
import { STATION_KEYS } from '../logic/bays.ts';
import { say } from './words.ts';

defineEmits<{ close: [] }>();
const KEYS: readonly (readonly [keys: string, what: string])[] = [
  [say('keyList.jOrKOr'), say('keyList.nextRowRowBefore')],
  [say('keyList.homeEndPgupPgdn'), say('keyList.farRows')],
  ['Enter', say('keyList.workOnTheRowOr')],
  ['E, D', say('keyList.pagesMetadataWriteTheTitle')],
  ['T', say('keyList.metadataTakeWhatIsSuggested')],
  ['E', say('keyList.redirectsChooseWhereItLands')],
  ['P', say('keyList.surveyPagesPointAtThings')],
  ['N, M', say('keyList.pagesReadyOrNotIn')],
  [say('keyList.altWithArrows'), say('keyList.pagesMenusMoveTheRow')],
  [say('keyList.delB'), say('keyList.pagesMenusRemoveWithWhat')],
  ['Space', say('keyList.removedMarkTheRow')],
  ['H', say('keyList.pagesUseAsHomePage')],
  ['X', say('keyList.surveyLetItBeWith')],
  ['A', say('keyList.pagesAddToTheTree')],
  ['/', say('keyList.searchTheList')],
  [say('keyList.ctrlZCtrlShiftZ'), say('keyList.oneStepBackOneStep')],
  ['L', say('keyList.historyOfTheDraft')],
  ['Ctrl K', say('keyList.findOrDo')],
  [say('keyList.esc'), say('keyList.backToTheListWhat')],
  ...Object.entries(STATION_KEYS).map(
    ([station, key]) =>
      [
        `G ${key.toUpperCase()}`,
        say('keyList.goTo', { station: station[0]?.toUpperCase(), station2: station.slice(1) }),
      ] as const,
  ),
];
</script>

<template>
  <v-dialog model-value :aria-label="say('keyList.keys')" @update:model-value="$emit('close')">
    <v-sheet class="keys">
      <h2 class="title-face">{{ say('keyList.keys') }}</h2>
      <dl>
        <template v-for="[keys, what] in KEYS" :key="keys"
          ><dt>{{ keys }}</dt>
          <dd>{{ what }}</dd></template
        >
      </dl>
      <v-btn class="close" @click="$emit('close')">{{ say('common.close') }}</v-btn>
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
