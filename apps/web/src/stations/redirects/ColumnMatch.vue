<script setup lang="ts">
/** Which column of a table holds what; asked once, and known again by the names. */
import type { Gathered } from '@fastigium/contracts/api/redirects';
import { COLUMN_MEANINGS, type ColumnMeaning } from '@fastigium/core/redirects/gather';
import { computed, ref } from 'vue';
import { say } from './words.ts';

const props = defineProps<{ name: string; table: Extract<Gathered, { state: 'columns' }> }>();
const emit = defineEmits<{ match: [how: Readonly<Record<string, string>>]; leave: [] }>();
const WORDS: Readonly<Record<ColumnMeaning, string>> = {
  address: say('columnMatch.oldAddress'),
  visits: say('columnMatch.visits'),
  lastSeen: say('columnMatch.lastSeen'),
  title: say('columnMatch.oldTitle'),
  status: say('columnMatch.oldStatus'),
  target: say('columnMatch.newAddress'),
};
const width = computed(() => Math.max(...props.table.rows.map((row) => row.length)));
const hasNames = ref(props.table.hasNames);
const meanings = ref<(ColumnMeaning | '')[]>(
  Array.from(
    { length: width.value },
    (_, at) => COLUMN_MEANINGS.find((meaning) => props.table.columns[meaning] === at) ?? '',
  ),
);
const isReady = computed(
  () =>
    meanings.value.filter((meaning) => meaning === 'address').length === 1 &&
    new Set(meanings.value.filter((meaning) => meaning !== '')).size ===
      meanings.value.filter((meaning) => meaning !== '').length,
);

function match(): void {
  const columns = Object.fromEntries(meanings.value.flatMap((meaning, at) => (meaning === '' ? [] : [[meaning, at]])));
  emit('match', { columns: JSON.stringify(columns), hasNames: hasNames.value ? 'yes' : 'no' });
}
</script>

<template>
  <form @submit.prevent="match">
    <hr class="rule" />
    <h2 class="heading">
      {{ say('columnMatch.columnsOf', { name }) }} <span class="quiet">{{ say('columnMatch.askedOnceForSuchA') }}</span>
    </h2>
    <div class="scroll" tabindex="0" role="region" :aria-label="say('columnMatch.theFirstRowsOf', { name })">
      <table>
        <thead>
          <tr>
            <th v-for="(_, at) in meanings" :key="at">
              <select v-model="meanings[at]" :aria-label="say('columnMatch.whatColumnHolds', { at: at + 1 })">
                <option value="">{{ say('columnMatch.leaveOut') }}</option>
                <option v-for="meaning in COLUMN_MEANINGS" :key="meaning" :value="meaning">{{ WORDS[meaning] }}</option>
              </select>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, index) in table.rows" :key="index" :class="{ names: hasNames && index === 0 }">
            <td v-for="(_, at) in meanings" :key="at" class="one-line" :class="{ out: meanings[at] === '' }">
              {{ row[at] ?? '' }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <label class="names-too"
      ><input v-model="hasNames" type="checkbox" /> {{ say('columnMatch.theFirstLineNamesThe') }}</label
    >
    <p v-if="!isReady" class="caution">{{ say('columnMatch.oneColumnHasToBe') }}</p>
    <div class="acts">
      <v-btn type="submit" variant="flat" color="primary" height="32" :disabled="!isReady">{{
        say('columnMatch.takeIt')
      }}</v-btn><v-btn height="32" @click="$emit('leave')">{{ say('common.leaveIt') }}</v-btn>
    </div>
  </form>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
  border: var(--line);
  border-radius: 3px;
}
table {
  border-collapse: collapse;
  font-size: 12px;
}
th,
td {
  text-align: left;
  padding: 4px 8px;
  border-bottom: var(--line);
  max-width: 190px;
}
select {
  font: inherit;
  background: var(--bench);
  color: inherit;
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  padding: 2px 4px;
}
.names td {
  font-weight: 600;
}
.out {
  color: var(--ink-5);
}
.names-too {
  display: block;
  margin-block: 8px;
}
.caution {
  color: var(--ochre-dark);
  font-size: 12px;
}
.acts {
  display: flex;
  gap: 8px;
}
</style>
