<script setup lang="ts">
/** What moves: from where to where, with what follows by itself. */
import type { AddressPreview } from '@fastigium/contracts/api/pages';
import { say } from './words.ts';
import RichWords from '../../words/RichWords.ts';

defineProps<{ preview: AddressPreview }>();
const MOST = 6;
</script>

<template>
  <div class="moves" role="status">
    <p>
      <RichWords
        :words="
          say.parts('movesList.pagesMoveEachWithA', {
            movesInAll: preview.movesInAll,
            linkingPages: preview.linkingPages,
          })
        "
      />
    </p>
    <p
      v-for="move in preview.moves.slice(0, MOST)"
      :key="move.id"
      class="address one-line"
      :title="`${move.from} → ${move.to}`"
    >
      {{ move.from }} → {{ move.to }}
    </p>
    <p v-if="preview.movesInAll > MOST" class="quiet">
      {{ say('movesList.andMore', { movesInAll: preview.movesInAll - MOST }) }}
    </p>
  </div>
</template>

<style scoped>
.moves {
  background: var(--stone-1);
  border: var(--line);
  border-radius: 3px;
  padding: 8px 12px;
  margin: 8px 0;
}
p {
  margin: 0 0 2px;
}
p:first-child {
  margin-bottom: 6px;
}
</style>
