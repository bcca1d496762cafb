<script setup lang="ts">
/** Names that are free, best first, and those that are taken, kept apart. */
import type { FoundName } from '@fastigium/contracts/api/address';
import { computed, onMounted } from 'vue';
import LedgerList from '../../components/LedgerList.vue';
import { formatMoney } from '../../logic/duration.ts';
import { useSite } from '../../stores/site.ts';
import { useAddress } from './address.ts';
import { useFinder } from './finder.ts';
import { runInBackground } from '../../stores/background.ts';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

type Row = FoundName | { readonly heading: string; readonly count: number };
const { view } = useAddress();
const site = useSite();
const { typed, names, answers, searching, selected, search } = useFinder();
onMounted(() => {
  // Something to look at: the site's own name, while nobody has asked for another.
  if (view.value?.domain == null && typed.value === '' && site.overview) {
    typed.value = site.overview.hostName;
    runInBackground(search(true));
  }
});
const isHeading = (row: Row): row is Extract<Row, { heading: string }> => 'heading' in row;
const rows = computed<Row[]>(() => {
  const found = names.value ?? [];
  const groups: [string, FoundName[]][] = [
    [say('nameFinder.free'), found.filter(({ state, alternative }) => state === 'free' && !alternative)],
    [say('nameFinder.freeNearIt'), found.filter(({ state, alternative }) => state === 'free' && alternative)],
    [say('nameFinder.taken'), found.filter(({ state }) => state === 'taken')],
    [say('nameFinder.notKnown'), found.filter(({ state }) => state === 'unknown')],
  ];
  return groups
    .filter(([, each]) => each.length > 0)
    .flatMap(([heading, each]) => [
      { heading, count: each.length },
      ...each.sort((a, b) => b.score.points - a.score.points),
    ]);
});
const deriveKey = (row: Row) => (isHeading(row) ? `# ${row.heading}` : row.name);
</script>

<template>
  <form class="ask" @submit.prevent="search()">
    <label for="name-asked" class="strong">{{
      view?.domain ? say('nameFinder.lookForAnotherName') : say('nameFinder.findAName')
    }}</label>
    <input
      id="name-asked"
      v-model="typed"
      class="address"
      type="text"
      autocomplete="off"
      spellcheck="false"
      :placeholder="say('nameFinder.lanternmoorOrAWholeName')"
    />
    <v-btn type="submit" height="34" :loading="searching" :disabled="typed.trim() === ''">{{
      say('nameFinder.lookItUp')
    }}</v-btn>
  </form>
  <!-- What answers the question before can be read on; but rows are not those of the next answer, so that a click meets none it was not for. -->
  <div v-if="rows.length > 0" class="found" :inert="searching || undefined" :class="{ past: searching }">
    <LedgerList
      :key="answers"
      v-model="selected"
      :items="rows"
      :key-of="deriveKey"
      :is-heading="isHeading"
      :row-height="40"
      :label="say('nameFinder.names')"
    >
      <template #default="{ item }">
        <span v-if="isHeading(item)" class="group"
          ><span>{{ item.heading }}</span
          ><span>{{ item.count }}</span></span
        >
        <span v-else class="name" :class="item.state">
          <span class="one-line"
            ><span class="address strong">{{ item.unicode }}</span
            ><span v-if="item.unicode !== item.name" class="address quiet ascii">{{ item.name }}</span></span
          >
          <span class="score" :title="say('nameFinder.of100', { points: item.score.points })"
            ><span class="bar"><span :style="{ width: `${item.score.points}%` }" /></span
            ><span class="figure">{{ item.score.points }}</span></span
          >
          <span class="quiet one-line">{{ item.state === 'free' ? '' : speak(item.words) }}</span>
          <span class="figure">{{
            item.costs[0] && item.currency
              ? say('nameFinder.aYear', { totalCents: formatMoney(item.costs[0].totalCents, item.currency) })
              : ''
          }}</span>
        </span>
      </template>
    </LedgerList>
  </div>
  <p v-else-if="!view?.domain" class="hint">
    {{ say('nameFinder.everyEndingSoldHereIs') }}
  </p>
</template>

<style scoped>
.ask {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 12px 20px;
  border-bottom: var(--line);
  flex-wrap: wrap;
}
.ask input {
  flex: 1;
  min-width: 160px;
  padding: 6px 10px;
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  background: var(--bench);
  color: inherit;
  font-size: 14px;
  line-height: 20px;
}
/* As high as the ledger has room for below it. */
.found {
  height: max(300px, calc(100dvh - 374px));
  display: flex;
}
.past {
  opacity: 0.55;
}
.group {
  display: flex;
  justify-content: space-between;
  font-size: 12px;
  font-weight: 600;
  color: var(--ink-7);
}
.name {
  display: grid;
  grid-template-columns: minmax(0, 1.6fr) 96px minmax(0, 1fr) 120px;
  gap: 12px;
  align-items: center;
}
.name.taken .strong {
  font-weight: 400;
  color: var(--ink-5);
  text-decoration: line-through;
}
.ascii {
  margin-left: 10px;
}
.score {
  display: grid;
  grid-template-columns: 56px 28px;
  gap: 8px;
  align-items: center;
  font-size: 12px;
  color: var(--ink-5);
}
.bar {
  height: 6px;
  background: var(--stone-2);
}
.bar span {
  display: block;
  height: 100%;
  background: var(--verdigris);
}
@media (max-width: 699px) {
  .name {
    grid-template-columns: minmax(0, 1fr) 120px;
  }
  .name .score,
  .name > .quiet {
    display: none;
  }
}
.hint {
  padding: 12px 20px;
  margin: 0;
  color: var(--ink-5);
  max-width: 560px;
}
</style>
